import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Problem } from "../api/client";
import { usePlaceActions } from "../api/places";
import { ProblemNote } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { FileButton } from "../inputs/FileButton";
import { PositionInput } from "../inputs/PositionInput";
import { readPosition } from "../inputs/position";
import { PLACE_FILE, readPlaceFile } from "../places/placeFile";
import { SURROUNDINGS } from "../stages/plan/names";
import type { Draft } from "./draft";

/** Where: pasted, by bearing and distance from what was pasted, or out of a place file. */
export function PlaceStep({ draft, say }: { draft: Draft; say: (part: Partial<Draft>) => void }) {
  const actions = usePlaceActions();
  const [problem, setProblem] = useState<Problem | null>(null);
  // Bearing and distance are counted from what was pasted, not from what they come to.
  const [base, setBase] = useState(() => readPosition(draft.position));
  const pasted = (position: string) => {
    const at = readPosition(position);
    if (at && !base) setBase(at);
  };
  const take = async (file: File) => {
    setProblem(null);
    try {
      const made = await actions.add.mutateAsync(await readPlaceFile(file));
      const spot = made.place.features.find((f) => f.role === "takeoff")?.coordinates[0];
      if (!spot) throw new Problem(0, `${file.name} has no take-off point: draw one under Places.`);
      const position = `${spot[1]!}, ${spot[0]!}`;
      say({ place: made.place.name, position, drawn: made.id });
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    }
  };
  return (
    <Panel title="3 · Where">
      <TextField
        fullWidth
        margin="dense"
        label="Name of the place"
        value={draft.place}
        onChange={(e) => say({ place: e.target.value })}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <PositionInput
        text={draft.position}
        known={base ? [{ name: "the position as pasted", ...base }] : []}
        onChange={(position) => {
          pasted(position);
          say({ position, drawn: null });
        }}
      />
      <FileButton
        size="small"
        words="Or a place file"
        accept={PLACE_FILE}
        onFile={(file) => void take(file)}
      />
      {problem && <ProblemNote problem={problem} />}
      <TextField
        select
        fullWidth
        margin="dense"
        label="Ground around"
        value={draft.surroundings}
        onChange={(e) => say({ surroundings: e.target.value as Draft["surroundings"] })}
      >
        {Object.entries(SURROUNDINGS).map(([key, words]) => (
          <MenuItem key={key} value={key}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </Panel>
  );
}
