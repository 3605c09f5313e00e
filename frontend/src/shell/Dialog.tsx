import MuiDialog, { type DialogProps } from "@mui/material/Dialog";
import { useBackCloses } from "./useBackCloses";

/** A dialog that the device's Back closes, as Escape does. */
export default function Dialog(props: DialogProps) {
  useBackCloses(props.open, () => props.onClose?.({}, "escapeKeyDown"));
  return <MuiDialog {...props} />;
}
