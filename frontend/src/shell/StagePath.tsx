import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { Link, useLocation } from "react-router";
import { STAGES } from "./stages";

/** The session as a path: down the side on a wide screen, along the bottom on a phone. */
export function StagePath({ sessionId, along }: { sessionId: string; along: boolean }) {
  const { pathname } = useLocation();
  return (
    <Box
      component="ol"
      sx={{
        listStyle: "none",
        m: 0,
        p: 0,
        display: "flex",
        flexDirection: along ? "row" : "column",
        justifyContent: "space-around",
        gap: 0,
        flex: along ? 1 : undefined,
      }}
    >
      {STAGES.map((stage) => {
        const to = `/sessions/${sessionId}/${stage.path}`;
        const here = pathname === to;
        const mark = (
          <Box
            sx={{
              display: "flex",
              flexDirection: along ? "column" : "row",
              alignItems: "center",
              gap: along ? 0.25 : 1.5,
              minHeight: 48,
              color: "text.primary",
            }}
          >
            <Box
              sx={{
                width: along ? 26 : 34,
                height: along ? 26 : 34,
                borderRadius: "50%",
                flexShrink: 0,
                display: "grid",
                placeItems: "center",
                fontWeight: 700,
                border: "2px solid",
                borderColor: "text.primary",
                bgcolor: here ? "var(--strong)" : "transparent",
                color: here ? "var(--onStrong)" : "inherit",
              }}
            >
              {stage.number}
            </Box>
            <Box sx={{ textAlign: along ? "center" : "left" }}>
              <Typography
                component="span"
                sx={{
                  display: "block",
                  fontWeight: here ? 800 : 400,
                  fontSize: along ? ".75rem" : "1rem",
                  lineHeight: 1.1,
                }}
              >
                {stage.name}
              </Typography>
            </Box>
          </Box>
        );
        return (
          <Box component="li" key={stage.number} sx={{ flex: along ? 1 : undefined, minWidth: 0 }}>
            <Box
              component={Link}
              to={to}
              aria-current={here ? "page" : undefined}
              sx={{ display: "block", textDecoration: "none", color: "inherit" }}
            >
              {mark}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
