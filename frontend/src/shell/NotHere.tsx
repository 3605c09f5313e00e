import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";

export function NotHere() {
  return (
    <Box sx={{ p: 4 }}>
      <Typography variant="h1">Page not found</Typography>
      <Button component={Link} to="/sessions" variant="contained" sx={{ mt: 2 }}>
        All sessions
      </Button>
    </Box>
  );
}
