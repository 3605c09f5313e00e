import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { Suspense, type ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Waiting } from "./notes";

/** One thing to look at, with its name and a few words on it. */
export function Panel({
  title,
  hint,
  children,
}: {
  title: string;
  hint?: string;
  children: ReactNode;
}) {
  return (
    <Paper
      variant="outlined"
      sx={{ borderRadius: "14px", px: { xs: 1.5, md: 2 }, py: 1.25, mb: 1.25 }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {title}
        </Typography>
        {hint && (
          <Typography variant="body2" color="text.secondary">
            {hint}
          </Typography>
        )}
      </Box>
      <ErrorBoundary fallback={<NotDrawn />} resetKeys={[children]}>
        <Suspense fallback={<Waiting what={title.toLowerCase()} />}>{children}</Suspense>
      </ErrorBoundary>
    </Paper>
  );
}

/** In place of what a panel could not draw: all around it goes on. */
function NotDrawn() {
  return (
    <Typography role="alert" color="error">
      This part can’t be shown. That’s a fault in Lark; everything else here still works, and your
      changes are kept.
    </Typography>
  );
}
