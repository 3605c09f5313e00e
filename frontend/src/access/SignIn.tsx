import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type FormEvent } from "react";
import { comeIn, problemOf } from "../api/access";
import type { Problem } from "../api/client";
import { Brand } from "../shell/Brand";
import { ProblemNote } from "../shell/notes";

/** What a device calls itself where nobody says better. */
const ownName = () => (/mobile/i.test(navigator.userAgent) ? "Phone" : "Computer");

/** The way in for a device that is not paired: nothing of what Lark keeps is on this page. */
export function SignIn() {
  const [code, setCode] = useState(() => decodeURIComponent(window.location.hash.slice(1)));
  const [phrase, setPhrase] = useState("");
  const [name, setName] = useState(ownName);
  const [byPhrase, setByPhrase] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    document.title = "Sign in · Lark";
    // A code must not stay where the next one who looks can read it.
    if (window.location.hash) window.history.replaceState(null, "", window.location.pathname);
  }, []);
  const enter = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      await comeIn(byPhrase ? { phrase } : { code }, name);
      window.location.assign(
        window.location.pathname === "/pair" ? "/phone" : window.location.pathname,
      );
    } catch (cause) {
      setProblem(problemOf(cause));
      setBusy(false);
    }
  };
  return (
    <Box component="main" id="main" sx={{ maxWidth: 460, mx: "auto", p: 2 }}>
      <Brand />
      <Paper
        component="form"
        variant="outlined"
        sx={{ borderRadius: "14px", p: 2, mt: 2 }}
        onSubmit={(e) => void enter(e)}
      >
        <Typography variant="h1">{byPhrase ? "Sign in" : "Pair this device"}</Typography>
        <Typography color="text.secondary" sx={{ my: 1 }}>
          {byPhrase
            ? "With the pass phrase that was set on Lark’s computer."
            : "On Lark’s computer open Phone and make a code. It works once, for five minutes."}
        </Typography>
        {byPhrase ? (
          <TextField
            key="phrase"
            autoFocus
            fullWidth
            margin="dense"
            type="password"
            label="Pass phrase"
            autoComplete="current-password"
            value={phrase}
            onChange={(e) => setPhrase(e.target.value)}
          />
        ) : (
          <TextField
            key="code"
            autoFocus
            fullWidth
            margin="dense"
            label="Code"
            autoComplete="one-time-code"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            slotProps={{ htmlInput: { autoCapitalize: "characters", spellCheck: false } }}
          />
        )}
        <TextField
          fullWidth
          margin="dense"
          label="Name of this device"
          value={name}
          onChange={(e) => setName(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        {problem && <ProblemNote problem={problem} />}
        <Box sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}>
          <Button
            type="submit"
            variant="contained"
            disabled={busy || (byPhrase ? phrase : code).trim() === ""}
          >
            {byPhrase ? "Sign in" : "Pair"}
          </Button>
          <Button onClick={() => setByPhrase(!byPhrase)}>
            {byPhrase ? "Use a code" : "Use the pass phrase"}
          </Button>
        </Box>
      </Paper>
    </Box>
  );
}
