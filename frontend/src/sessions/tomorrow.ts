/** Tomorrow at eight, as a time input takes it. */
export function tomorrowMorning(): string {
  const at = new Date(Date.now() + 24 * 3600_000);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T08:00`;
}
