import InputBase from "@mui/material/InputBase";
import { useState } from "react";

/** The session's title, changed where it stands. An empty one is not taken. */
export function TitleInput({
  value,
  onChange,
}: {
  value: string;
  onChange: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const next = typed?.trim();
    if (next && next !== value) onChange(next);
    setTyped(null);
  };
  return (
    <InputBase
      fullWidth
      value={typed ?? value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === "Enter") (e.target as HTMLElement).blur();
        if (e.key === "Escape") setTyped(null);
      }}
      inputProps={{ "aria-label": "Title", maxLength: 120 }}
      sx={{
        fontSize: { xs: "1.35rem", md: "1.6rem" },
        fontWeight: 800,
        "& input": { py: 0, textOverflow: "ellipsis" },
        borderBottom: "1px solid transparent",
        "&:hover, &.Mui-focused": { borderBottomColor: "divider" },
      }}
    />
  );
}
