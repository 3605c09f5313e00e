import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { Link } from "react-router";

/** Said over a flight in the air: the clock and its calls go on, nothing goes up. */
export function ShutNote() {
  return (
    <Alert
      severity="warning"
      action={
        <Button color="inherit" component={Link} to="/pair">
          Sign in
        </Button>
      }
    >
      This device isn’t paired with Lark any more. The flight clock goes on; what happens is kept on
      this device and goes up once you have signed in.
    </Alert>
  );
}
