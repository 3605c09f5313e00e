import { useTheme } from "@mui/material/styles";
import useMediaQuery from "@mui/material/useMediaQuery";

/** Whether there is a laptop's room; else it is held like a phone. */
export function useWide(): boolean {
  return useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
}
