import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

/** A number that is read at arm's length, with what it is. */
export function Big({
  label,
  value,
  strong = false,
  timer = false,
}: {
  label: string;
  value: string;
  strong?: boolean;
  timer?: boolean;
}) {
  return (
    <Box role={timer ? "timer" : undefined} aria-label={timer ? "Flight time" : undefined}>
      <Typography variant="body2" color="text.secondary" noWrap>
        {label}
      </Typography>
      <Typography
        sx={{
          fontSize: { xs: "min(2rem, 8.5vw)", sm: "2.6rem" },
          fontWeight: 800,
          lineHeight: 1.05,
          fontVariantNumeric: "tabular-nums",
          color: strong ? "var(--stay)" : "text.primary",
        }}
      >
        {value}
      </Typography>
    </Box>
  );
}
