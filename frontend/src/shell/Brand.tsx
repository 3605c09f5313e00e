import Box from "@mui/material/Box";
import { visuallyHidden } from "@mui/utils";
import { Link } from "react-router";
import { LarkSign } from "./marks";

/** The mark, home to the sessions; word: with the name beside it. */
export function Brand({ word = true }: { word?: boolean }) {
  return (
    <Box
      component={Link}
      to="/sessions"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        minHeight: 48,
        minWidth: 48,
        color: "inherit",
        textDecoration: "none",
        fontSize: "1.3rem",
        fontWeight: 800,
      }}
    >
      <LarkSign />
      {word ? (
        " Lark"
      ) : (
        <Box component="span" sx={visuallyHidden}>
          Lark
        </Box>
      )}
    </Box>
  );
}
