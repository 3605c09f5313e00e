import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { EditorButtons } from "../editing/EditorNotes";
import { headline } from "./plan/headline";
import { useRoom } from "./SessionRoom";

/** The session's name and headline, undo, and what else a stage can do. */
export function StageTitle({ children }: { children?: ReactNode }) {
  const { editor } = useRoom();
  return (
    <>
      <Typography variant="h1" noWrap title={editor.plan.title}>
        {editor.plan.title}
      </Typography>
      <Typography color="text.secondary">{headline(editor.plan)}</Typography>
      <Box className="no-print" sx={{ display: "flex", alignItems: "center", gap: 0.5, ml: -1.5 }}>
        <EditorButtons editor={editor} />
        <Box sx={{ flex: 1 }} />
        {children}
      </Box>
    </>
  );
}
