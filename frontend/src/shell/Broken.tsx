import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useRouteError } from "react-router";
import { anyUnsaved } from "../editing/opened";
import { whereKept } from "./device";

/** A screen that could not be drawn: what happened, what is kept, the way on. */
export function Broken() {
  const error = useRouteError();
  return (
    <Box role="alert" sx={{ p: 4, maxWidth: 640 }}>
      <Typography variant="h1">This screen can’t be shown</Typography>
      <Typography sx={{ my: 1 }}>
        Everything that was saved is kept.
        {anyUnsaved() && ` Your last change is not saved yet. ${whereKept()}`} This is a fault in
        Lark: {error instanceof Error ? error.message : String(error)}
      </Typography>
      <Button variant="contained" href="/sessions">
        All sessions
      </Button>
    </Box>
  );
}
