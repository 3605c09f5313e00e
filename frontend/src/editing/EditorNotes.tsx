import RedoIcon from "@mui/icons-material/Redo";
import UndoIcon from "@mui/icons-material/Undo";
import IconButton from "@mui/material/IconButton";
import { SaveNote } from "../shell/SaveNote";
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
