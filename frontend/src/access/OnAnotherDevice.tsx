import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { usePageAddresses } from "../api/access";
import Dialog from "../shell/Dialog";
import { AddressPicture } from "./AddressPicture";

/** A page of Lark for another device: its address, for a camera and for a thumb. */
export function OnAnotherDevice({
  title,
  page,
  onClose,
  children,
}: {
  title: string;
  page: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const found = usePageAddresses(page);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="on-another-device">
      <DialogTitle id="on-another-device">{title}</DialogTitle>
      <DialogContent>
        <Typography>{children}</Typography>
        {found.data?.length === 0 && (
          <Alert severity="info" icon={false} sx={{ border: 1, my: 1 }}>
            Other devices don’t reach this Lark yet. <Link to="/phone">Phone</Link> says how.
          </Alert>
        )}
        {found.data && found.data.length > 0 && (
          <Box sx={{ my: 1 }}>
            <AddressPicture addresses={found.data} />
            <Typography variant="body2" color="text.secondary">
              The device has to be paired: <Link to="/phone">Phone</Link> makes a code.
            </Typography>
          </Box>
        )}
        <Button component={Link} to={page} variant="outlined" sx={{ minHeight: 48, mt: 1 }}>
          Open it here
        </Button>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
