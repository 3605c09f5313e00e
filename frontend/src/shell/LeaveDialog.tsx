import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Dialog from "./Dialog";

/** Before a key leads away from what runs here: a slip should not. */
export function LeaveDialog({ why, go, stay }: { why: string; go: () => void; stay: () => void }) {
  return (
    <Dialog open onClose={stay} aria-labelledby="leave-title">
      <DialogTitle id="leave-title">Leave this page?</DialogTitle>
      <DialogContent>{why}</DialogContent>
      <DialogActions>
        <Button onClick={stay} autoFocus>
          Stay
        </Button>
        <Button
          onClick={() => {
            stay();
            go();
          }}
        >
          Leave
        </Button>
      </DialogActions>
    </Dialog>
  );
}
