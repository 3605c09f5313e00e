import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState, type ReactNode } from "react";
import type { Address } from "../api/access";

/** Addresses of Lark: one as a picture for a camera, all to choose from and to type. */
export function AddressPicture({
  addresses,
  children,
}: {
  addresses: Address[];
  children?: ReactNode;
}) {
  const [which, setWhich] = useState(0);
  const shown = addresses[which] ?? addresses[0];
  return (
    <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "center" }}>
      {shown && (
        <Box
          component="img"
          src={shown.picture}
          alt={`Camera code for ${shown.address.split("#")[0]}`}
          sx={{ width: 210, height: 210, borderRadius: "8px" }}
        />
      )}
      <Box sx={{ minWidth: 0 }}>
        {children}
        {addresses.map((a, n) => (
          <Button
            key={a.address}
            size="small"
            aria-pressed={n === which}
            onClick={() => setWhich(n)}
            sx={{ display: "block", textTransform: "none", overflowWrap: "anywhere" }}
          >
            {a.address.split("#")[0]}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
