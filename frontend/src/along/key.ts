/** A question to the server, by its method, path and what is asked, in whatever order. */
export function keyOf(method: string, address: string): string {
  const { pathname, searchParams } = new URL(address, "http://lark");
  searchParams.sort();
  const asked = searchParams.toString();
  return `${method} ${pathname}${asked ? `?${asked}` : ""}`;
}

export const pathOf = (address: string): string => new URL(address, "http://lark").pathname;
