import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";
import { Problem } from "../api/client";
import { lookAt, type Shared } from "../api/sharing";
import { FileButton } from "../inputs/FileButton";
import { Panel } from "../shell/Panel";
import { ProblemNote } from "../shell/notes";
import { CodeCamera } from "./CodeCamera";
import { codeInPhoto } from "./camera";
import { SharedReview } from "./SharedReview";

const NO_CODE = new Problem(0, "No code is seen in that photo. Fill the picture with it, sharp.");

/** A session or a place that another pilot gives: read, looked at, and only then taken. */
export function SharedPage() {
  /** The codes that were read so far. */
  const codes = useRef<string[]>([]);
  const reading = useRef(Promise.resolve());
  const [shared, setShared] = useState<Shared | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [camera, setCamera] = useState(false);
  const [typed, setTyped] = useState("");
  useEffect(() => {
    document.title = "From another pilot · Lark";
  }, []);

  const look = async (given: File | string[]) => {
    setProblem(null);
    try {
      const found = await lookAt(given);
      setShared(found);
      if (found.plan || found.place) setCamera(false);
      return true;
    } catch (cause) {
      setProblem(cause as Problem);
      return false;
    }
  };
  // One after another: a camera tells the next code before the answer to the last one is here.
  const read = (text: string) => {
    reading.current = reading.current.then(async () => {
      const lines = text.split(/\r?\n/).map((line) => line.trim());
      const all = [...new Set([...codes.current, ...lines.filter((line) => line !== "")])];
      if (await look(all)) codes.current = all;
    });
    return reading.current;
  };
  const again = () => {
    codes.current = [];
    setShared(null);
    setProblem(null);
    setTyped("");
  };

  if (shared && (shared.plan ?? shared.place))
    return <SharedReview shared={shared} onAgain={again} />;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 720 }}>
      <Typography variant="h1" sx={{ mb: 1 }}>
        From another pilot
      </Typography>
      {problem && <ProblemNote problem={problem} />}
      {shared && (
        <Typography role="status" sx={{ fontWeight: 700, mb: 1 }}>
          {shared.of - shared.missing.length} of {shared.of} codes are read. Still to come:{" "}
          {shared.missing.join(", ")}. <Button onClick={again}>Begin again</Button>
        </Typography>
      )}
      <Panel title="A file">
        <FileButton
          variant="contained"
          words="Choose the file"
          accept=".gz,.json,application/gzip,application/json"
          onFile={(file) => void look(file)}
        />
      </Panel>
      <Panel title="Codes" hint="off the other pilot’s screen">
        {camera ? (
          <>
            <CodeCamera onCode={(text) => void read(text)} />
            <Button onClick={() => setCamera(false)}>Close the camera</Button>
          </>
        ) : (
          <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
            <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => setCamera(true)}>
              Use the camera
            </Button>
            <FileButton
              variant="outlined"
              sx={{ minHeight: 48 }}
              words="Choose a photo of a code"
              accept="image/*"
              onFile={(file) =>
                void codeInPhoto(file).then((text) =>
                  text === null ? setProblem(NO_CODE) : read(text),
                )
              }
            />
          </Box>
        )}
        <Box
          component="form"
          sx={{ display: "flex", gap: 1, alignItems: "flex-start", mt: 1 }}
          onSubmit={(e) => {
            e.preventDefault();
            void read(typed).then(() => setTyped(""));
          }}
        >
          <TextField
            multiline
            maxRows={4}
            fullWidth
            size="small"
            label="Or the codes as text, a line each"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Button type="submit" disabled={typed.trim() === ""}>
            Read
          </Button>
        </Box>
      </Panel>
    </Box>
  );
}
