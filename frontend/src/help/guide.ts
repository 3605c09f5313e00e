/** The user guide as it stands in docs/guide, in pages and sections that can be searched. */

export interface Section {
  title: string;
  /** Its place in the page's address. */
  anchor: string;
  text: string;
}

export interface Page {
  key: string;
  title: string;
  text: string;
  sections: Section[];
}

export function anchorOf(title: string): string {
  return title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
}

/** A page of Markdown: its title, and its parts at the second heading. file: "2-plan.md" becomes "plan". */
export function readPage(file: string, text: string): Page {
  const title = /^# (.+)$/m.exec(text)?.[1] ?? file;
  const sections = text
    .split(/^(?=## )/m)
    .slice(1)
    .map((part) => {
      const [head = "", ...rest] = part.split("\n");
      const name = head.slice(3).trim();
      return { title: name, anchor: anchorOf(name), text: rest.join("\n").trim() };
    });
  const key = file.replace(/^.*\/\d+-/, "").replace(/\.md$/, "");
  return { key, title, text: text.replace(/^# .+$/m, "").trim(), sections };
}

export interface Found {
  page: Page;
  section: Section;
}

/** Sections with every word that is looked for, those with one in the title first. */
export function searched(pages: Page[], words: string): Found[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return [];
  const found = pages.flatMap((page) => page.sections.map((section) => ({ page, section })));
  const has = (text: string) => wanted.every((word) => text.toLowerCase().includes(word));
  return found
    .filter(({ page, section }) => has(`${page.title} ${section.title} ${section.text}`))
    .sort((a, b) => Number(has(b.section.title)) - Number(has(a.section.title)));
}

/** The words around the first of those that are looked for. */
export function excerpt(text: string, words: string): string {
  const plain = text.replace(/!\[[^\]]*\]\([^)]*\)/g, "").replace(/[*`#]/g, "");
  const first = words.toLowerCase().split(/\s+/).find(Boolean) ?? "";
  const at = Math.max(plain.toLowerCase().indexOf(first) - 60, 0);
  return `${at > 0 ? "…" : ""}${plain.slice(at, at + 160).trim()}…`;
}
