import Alert from "@mui/material/Alert";
import { ProblemNote } from "../shell/notes";
import { useForgetful } from "../shell/useForgetful";
import { useLastSending, useWords } from "./useSaying";
import type { ListName } from "./words";

/** What was said here and is not with the server: why, and that it is not lost. */
export function WaitingWords({ session, lists }: { session: number; lists: ListName[] }) {
  const words = useWords(session, ...lists);
  const { outOfReach, refused } = useLastSending();
  const forgetful = useForgetful();
  return (
    <>
      {refused?.session === session && <ProblemNote problem={refused.problem} />}
      {outOfReach && words.length > 0 && (
        <Alert severity="warning" icon={false} role="status" sx={{ border: 1, mb: 1 }}>
          {words.length === 1 ? "One answer is" : `${words.length} answers are`}{" "}
          {forgetful ? "in this page only: leave it open, and they" : "saved on this device and"}{" "}
          will upload when the server is back.
        </Alert>
      )}
    </>
  );
}
