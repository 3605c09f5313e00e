import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { BYTES } from "../api/flights";
import { refusalWords } from "../api/refusals";
import { Panel } from "../shell/Panel";
import { FileButton } from "../inputs/FileButton";

/** Everything out as one file, and into a Lark that has nothing yet. */
export function ArchivePanel() {
  const queries = useQueryClient();
  const [said, setSaid] = useState<{ bad: boolean; words: string } | null>(null);
  const restore = async (file: File) => {
    setSaid(null);
    try {
      const answer = await fetch("/api/archive", { method: "POST", headers: BYTES, body: file });
      if (answer.ok) {
        setSaid({ bad: false, words: "Restored: everything is as it was in the archive." });
        void queries.invalidateQueries();
        return;
      }
      const { message, refusals } = await answer.json();
      const first = refusals?.[0];
      setSaid({
        bad: true,
        words: first ? `${message} ${refusalWords(first)}` : message,
      });
    } catch {
      setSaid({ bad: true, words: "Can’t reach Lark’s server; nothing was changed." });
    }
  };
  return (
    <Panel title="Backup and export" hint="yours, in open formats">
      <Typography variant="body2">
        The archive holds all that Lark has, as JSON and files. Lark also backs up its database once
        a day; <code>lark backups</code> lists them, <code>lark restore</code> puts one back.
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        <Button variant="outlined" component="a" href="/api/archive" download>
          Everything as an archive
        </Button>
        <FileButton
          words="Restore one into an empty Lark"
          label="Archive to restore"
          accept=".zip"
          onFile={(file) => void restore(file)}
        />
      </Box>
      {said && (
        <Alert severity={said.bad ? "error" : "success"} icon={false} sx={{ border: 1, mt: 1 }}>
          {said.words}
        </Alert>
      )}
    </Panel>
  );
}
