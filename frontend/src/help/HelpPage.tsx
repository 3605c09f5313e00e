import Box from "@mui/material/Box";
import Link from "@mui/material/Link";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import Markdown, { type Components } from "react-markdown";
import { Link as RouterLink, NavLink, useLocation, useNavigate, useParams } from "react-router";
import { linkStyle } from "../shell/rooms";
import { useWide } from "../shell/useWide";
import { NotHere } from "../shell/NotHere";
import { anchorOf, excerpt, searched } from "./guide";
import { PAGES, PICTURES } from "./pages";
import { Sources } from "./Sources";

const SOURCES = "checks";
const TITLES = [...PAGES, { key: SOURCES, title: "Checks and sources" }];

/** The user guide, a page at a time, all of it searched as one types; and what every check rests on. */
export function HelpPage() {
  const key = useParams().page ?? PAGES[0]!.key;
  const page = PAGES.find((p) => p.key === key);
  const title = key === SOURCES ? "Checks and sources" : page?.title;
  const { hash } = useLocation();
  const [words, setWords] = useState("");
  const wide = useWide();
  const navigate = useNavigate();
  useEffect(() => {
    document.title = `${title ?? "Help"} · Lark`;
  }, [title]);
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash, key, words]);
  if (title === undefined) return <NotHere />;
  return (
    <Box
      sx={{
        p: { xs: 1.5, md: 2.5 },
        display: { md: "grid" },
        gridTemplateColumns: "200px minmax(0, 760px)",
        gap: 3,
      }}
    >
      <Box>
        <TextField
          type="search"
          size="small"
          fullWidth
          label="Search the guide"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        {!wide && (
          <TextField
            select
            fullWidth
            size="small"
            label="Page"
            value={key}
            onChange={(e) => {
              setWords("");
              void navigate(`/help/${e.target.value}`);
            }}
            sx={{ mt: 1.5 }}
          >
            {TITLES.map((p) => (
              <MenuItem key={p.key} value={p.key}>
                {p.title}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Box
          component="nav"
          aria-label="Guide"
          sx={{ mt: 1, pl: 1, display: { xs: "none", md: "block" } }}
        >
          {TITLES.map((p) => (
            <Box
              key={p.key}
              component={NavLink}
              to={`/help/${p.key}`}
              onClick={() => setWords("")}
              className={p.key === key ? "active" : undefined}
              sx={{ ...linkStyle, minHeight: 36 }}
            >
              {p.title}
            </Box>
          ))}
        </Box>
      </Box>
      <Box sx={{ mt: { xs: 2, md: 0 } }}>
        {words.trim() ? (
          <Results words={words} done={() => setWords("")} />
        ) : (
          <>
            <Typography variant="h1" sx={{ mb: 1 }}>
              {title}
            </Typography>
            {page ? <Markdown components={WRITTEN}>{page.text}</Markdown> : <Sources />}
          </>
        )}
      </Box>
    </Box>
  );
}

function Results({ words, done }: { words: string; done: () => void }) {
  const found = searched(PAGES, words);
  return (
    <>
      <Box role="status">
        <Typography variant="h1">
          {found.length === 0 ? "Nothing found" : `${found.length} found`}
        </Typography>
      </Box>
      <Box component="ul" aria-label="Found in the guide" sx={{ listStyle: "none", p: 0 }}>
        {found.map(({ page, section }) => (
          <Box component="li" key={`${page.key}-${section.anchor}`} sx={{ py: 0.75 }}>
            <Link
              component={RouterLink}
              to={`/help/${page.key}#${section.anchor}`}
              onClick={done}
              sx={{ fontWeight: 750, color: "text.primary" }}
            >
              {page.title}: {section.title}
            </Link>
            <Typography variant="body2" color="text.secondary">
              {excerpt(section.text, words)}
            </Typography>
          </Box>
        ))}
      </Box>
    </>
  );
}

const WRITTEN: Components = {
  h2: ({ children }) => (
    <Typography
      variant="h2"
      id={anchorOf(String(children))}
      sx={{ mt: 2.5, mb: 0.5, scrollMarginTop: 16 }}
    >
      {children}
    </Typography>
  ),
  p: ({ children }) => (
    <Typography component="div" sx={{ my: 1 }}>
      {children}
    </Typography>
  ),
  img: ({ src, alt }) => {
    const file = String(src).split("/").at(-1)!;
    const tall = /phone|decision|pocket/.test(file);
    return (
      <Box
        component="img"
        loading="lazy"
        src={PICTURES[file]}
        alt={alt}
        sx={{
          display: "block",
          width: tall ? "min(100%, 300px)" : "100%",
          // Its room is kept before it is there, so that nothing below it jumps.
          aspectRatio: tall ? "390 / 844" : "1280 / 800",
          objectFit: "contain",
          objectPosition: "left top",
          border: 1,
          borderColor: "divider",
          borderRadius: "10px",
        }}
      />
    );
  },
};
