import { readPage, type Page } from "./guide";

const files = import.meta.glob<string>("../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});

export const PAGES: Page[] = Object.entries(files)
  .sort(([a], [b]) => a.localeCompare(b, undefined, { numeric: true }))
  .map(([file, text]) => readPage(file, text));

/** Addresses of the pictures that the guide shows, by file name. */
export const PICTURES: Record<string, string> = Object.fromEntries(
  Object.entries(
    import.meta.glob<string>("../../../docs/screenshots/*.png", {
      query: "?url",
      import: "default",
      eager: true,
    }),
  ).map(([file, url]) => [file.split("/").at(-1)!, url]),
);
