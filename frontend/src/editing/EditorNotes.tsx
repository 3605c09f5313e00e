import RedoIcon from "@mui/icons-material/Redo";
import UndoIcon from "@mui/icons-material/Undo";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { SaveNote } from "../frame/SaveNote";
import type { Editor } from "./useEditor";

/** Undo, redo, and whether it is saved. */
export function EditorButtons<T>({ editor }: { editor: Omit<Editor<T>, "document"> }) {
  return (
    <>
      <IconButton aria-label="Undo" disabled={!editor.canUndo} onClick={editor.undo}>
        <UndoIcon />
      </IconButton>
      <IconButton aria-label="Redo" disabled={!editor.canRedo} onClick={editor.redo}>
        <RedoIcon />
      </IconButton>
      <SaveNote saving={editor.saving} again={() => void editor.flush().catch(() => undefined)} />
    </>
  );
}

/** Changes of another day that could not be saved then, and were overtaken since. */
export function StrandedNote<T>({
  editor,
  what,
}: {
  editor: Omit<Editor<T>, "document">;
  what: string;
}) {
  if (!editor.stranded) return null;
  return (
    <Alert
      severity="warning"
      sx={{ m: 1 }}
      action={
        <>
          <Button color="inherit" onClick={editor.useStranded}>
            Put them in
          </Button>
          <Button color="inherit" onClick={editor.dropStranded}>
            Drop them
          </Button>
        </>
      }
    >
      Changes made in this window could not be saved, and the {what} was saved elsewhere since.
    </Alert>
  );
}
