/** What is wrong with the layout of the page that is open, by words: texts over one another, texts cut, and so on. */
() => {
  const main = document.getElementById("main");
  const hidden = (e) => e.closest("[aria-hidden=true], noscript, script, style");
  const shown = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true });
  const forReaders = (e) => getComputedStyle(e).clip !== "auto" || e.clientWidth === 1;
  const words = (e) => (e.getAttribute("aria-label") || e.textContent || "").trim().slice(0, 40);

  /** What of an element can be seen inside everything that cuts it off. */
  const window_ = (e) => {
    let box = { left: -1e6, top: -1e6, right: 1e6, bottom: 1e6 };
    for (let p = e.parentElement; p; p = p.parentElement) {
      const { overflowX, overflowY } = getComputedStyle(p);
      if (!/auto|scroll|hidden|clip/.test(overflowX + overflowY)) continue;
      const r = p.getBoundingClientRect();
      box = {
        left: Math.max(box.left, r.left), top: Math.max(box.top, r.top),
        right: Math.min(box.right, r.right), bottom: Math.min(box.bottom, r.bottom),
      };
    }
    return box;
  };

  const texts = [];
  const walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const e = node.parentElement;
    // What stands above the page and stays there may lie over it.
    if (!node.textContent.trim() || hidden(e) || !shown(e) || forReaders(e) || e.closest("header")) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const cut = window_(e);
    for (const r of range.getClientRects()) {
      const box = {
        left: Math.max(r.left, cut.left), top: Math.max(r.top, cut.top),
        right: Math.min(r.right, cut.right), bottom: Math.min(r.bottom, cut.bottom),
      };
      if (box.right - box.left > 2 && box.bottom - box.top > 4)
        texts.push({ e, box, text: node.textContent.trim().slice(0, 40) });
    }
  }
  const wrong = [];
  texts.forEach((a, i) => {
    for (const b of texts.slice(i + 1)) {
      if (a.e === b.e) continue;
      const width = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
      const height = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
      const line = Math.min(a.box.bottom - a.box.top, b.box.bottom - b.box.top);
      if (width > 3 && height > 0.35 * line) wrong.push(`one over the other: ${a.text} × ${b.text}`);
    }
  });

  for (const e of main.querySelectorAll("*")) {
    const own = [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent.trim());
    if (!own || hidden(e) || !shown(e) || forReaders(e) || e.closest("[title]")) continue;
    if (getComputedStyle(e).overflowX === "hidden" && e.scrollWidth > e.clientWidth + 1)
      wrong.push(`cut: ${words(e)}`);
  }

  const foot = document.querySelector("nav[aria-label=Stages], nav[aria-label=Rooms]");
  const fold = foot ? foot.getBoundingClientRect().top : innerHeight;
  const useful = [...main.querySelectorAll("button, a[href], input, [role=checkbox], [role=combobox]")].some((e) => {
    const r = e.getBoundingClientRect();
    return shown(e) && !e.closest("header") && r.height > 0 && r.bottom <= fold;
  });
  if (!useful) wrong.push("nothing to press or read on with above the fold");

  if (innerWidth < 900) {
    const pressed = "button, a[href], [role=button], [role=checkbox], [role=tab], [role=combobox]";
    for (const e of document.querySelectorAll(pressed)) {
      // A link in a line of text is as high as its line.
      if (hidden(e) || !shown(e) || forReaders(e) || getComputedStyle(e).display === "inline") continue;
      if (e.getAttribute("href") === "#main" || e.closest(".leaflet-container")) continue;
      const r = e.getBoundingClientRect();
      if (r.width > 1 && (r.height < 44 || r.width < 44))
        wrong.push(`too small to touch: ${words(e)}, ${Math.round(r.width)} × ${Math.round(r.height)}`);
    }
  }
  if (document.documentElement.scrollWidth > innerWidth) wrong.push("wider than the screen");
  return [...new Set(wrong)];
}
