import { Problem } from "./client";
import { noteStatus } from "./shut";

/** Bytes go up as they are, so that the server names what is wrong with them. */
export async function sendBytes<T>(address: string, file: File): Promise<T> {
  let response: Response;
  try {
    response = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/octet-stream" },
      body: file,
    });
  } catch {
    throw new Problem(
      0,
      "Can’t reach Lark’s server. Nothing was imported; try again when it’s back.",
    );
  }
  const said = (await response.json().catch(() => ({}))) as Partial<Problem> & T;
  if (response.ok) return said;
  noteStatus(response.status);
  throw new Problem(response.status, said.message ?? "The file was refused.", said.refusals ?? []);
}
