import Button, { type ButtonProps } from "@mui/material/Button";
import { useRef } from "react";

/** A button that asks for a file, by pointer or by keyboard. label: what the file is, where the button does not say. */
export function FileButton({
  words,
  accept,
  onFile,
  label = words,
  ...button
}: {
  words: string;
  accept: string;
  onFile: (file: File) => void;
  label?: string;
} & Pick<ButtonProps, "variant" | "size" | "disabled" | "sx">) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()}>
        {words}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = ""; // the same file may be corrected and chosen again
          if (file) onFile(file);
        }}
      />
    </>
  );
}
