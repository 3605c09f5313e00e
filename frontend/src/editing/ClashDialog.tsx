import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import type { Clash } from "./merge";
import type { Editor } from "./useEditor";

/** What a field is called, and how one of its values is written. */
export interface FieldWords {
  label: string;
  value: (value: unknown) => string;
}

/** Fields that were changed here and elsewhere: both values shown, one touch says which counts. */
export function ClashDialog<T>({
  editor,
  what,
  words,
}: {
  editor: Pick<Editor<T>, "clashes" | "answer">;
  what: string;
  words: (clash: Clash) => FieldWords;
}) {
  const asked = editor.clashes.filter((clash) => clash.path[0] !== "evidence");
  return (
    <Dialog open={asked.length > 0} fullWidth maxWidth="xs" aria-labelledby="clash-title">
      <DialogTitle id="clash-title">Changed in two places</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1.5 }}>
          This {what} was changed here and in another window or on another device. All other changes
          are put together; say which value counts:
        </Typography>
        {asked.map((clash) => {
          const { label, value } = words(clash);
          const choice = (whose: "here" | "elsewhere", name: string) => (
            <Button
              variant="outlined"
              sx={{ flex: 1, minHeight: 48, flexDirection: "column", lineHeight: 1.2 }}
              onClick={() => editor.answer(clash, whose)}
            >
              <span>{name}</span>
              <b>{value(clash[whose])}</b>
            </Button>
          );
          return (
            <Box key={clash.path.join(".")} role="group" aria-label={label} sx={{ mb: 1.5 }}>
              <Typography sx={{ fontWeight: 700, mb: 0.5 }}>{label}</Typography>
              <Box sx={{ display: "flex", gap: 1 }}>
                {choice("here", "As here")}
                {choice("elsewhere", "As there")}
              </Box>
            </Box>
          );
        })}
      </DialogContent>
    </Dialog>
  );
}
