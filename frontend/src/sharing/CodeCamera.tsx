import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import { useEffect, useRef, useState } from "react";
import { codeIn, SIZES_PX } from "./camera";

const LOOK_MS = 250;

/** What this device's camera sees; every code in it is told once. */
export function CodeCamera({ onCode }: { onCode: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [refused, setRefused] = useState<string | null>(
    // Without a secure address there is none to ask.
    "mediaDevices" in navigator ? null : "This browser gives no camera here.",
  );
  const tell = useRef(onCode);
  useEffect(() => {
    tell.current = onCode;
  });
  useEffect(() => {
    if (!("mediaDevices" in navigator)) return;
    let over = false;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout>;
    const told = new Set<string>();
    let looks = 0;
    const look = async () => {
      const seen = video.current;
      if (over) return;
      if (seen && seen.videoWidth > 0) {
        const size = SIZES_PX[looks++ % SIZES_PX.length]!;
        const text = await codeIn(seen, seen.videoWidth, seen.videoHeight, size);
        if (text && !told.has(text)) {
          told.add(text);
          tell.current(text);
        }
      }
      timer = setTimeout(() => void look(), LOOK_MS);
    };
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: "environment", width: { ideal: 1280 } } })
      .then(
        (given) => {
          stream = given;
          if (over) return given.getTracks().forEach((track) => track.stop());
          if (video.current) {
            video.current.srcObject = given;
            void video.current.play();
          }
          void look();
        },
        () => setRefused("Lark may not use the camera. Allow it, or choose a photo of the code."),
      );
    return () => {
      over = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  if (refused)
    return (
      <Alert severity="warning" icon={false} sx={{ border: 1, my: 1 }}>
        {refused}
      </Alert>
    );
  return (
    <Box
      component="video"
      ref={video}
      muted
      playsInline
      aria-label="Camera"
      sx={{ display: "block", width: "min(100%, 380px)", borderRadius: "8px", my: 1 }}
    />
  );
}
