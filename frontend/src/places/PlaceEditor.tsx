import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import {
  client,
  take,
  type Feature,
  type OpenedPlace,
  type Place,
  type Problem,
} from "../api/client";
import { usePlace, usePlaceActions, type MapData } from "../api/places";
import { useEditor } from "../editing/useEditor";
import { ProblemNote, Waiting } from "../shell/notes";
import { ClashDialog, type FieldWords } from "../editing/ClashDialog";
import { EditorButtons } from "../editing/EditorNotes";
import type { Clash } from "../editing/merge";
import type { Kept, Source } from "../editing/openDocument";
import { useUndoKeys } from "../shell/useUndoKeys";
import { Words } from "../inputs/fields";
import { FeatureLayer, ZoneLayer } from "../map/FeatureLayer";
import type { LatLon } from "../map/local";
import { MapView } from "../map/MapView";
import { nameOf, TOOLS, type Tool } from "../map/roles";
import { Photos } from "../photos/Photos";
import { Pen } from "./Pen";
import { drawn, originOf, reduce } from "./placeEdit";
import { FeatureForm } from "./FeatureForm";
import { Handles } from "./Handles";
import { PlaceFiles } from "./PlaceFiles";
import { MapReview } from "./MapReview";
import { merged } from "./mapData";

export function PlacePage() {
  const id = Number(useParams().placeId);
  const place = usePlace(id);
  if (place.isPending) return <Waiting what="the place" />;
  if (place.error)
    return (
      <ProblemNote
        problem={place.error as Problem}
        again={() => void place.refetch()}
        back={{ to: "/places", words: "All places" }}
      />
    );
  return <Editing key={id} opened={place.data} />;
}

const kept = ({ place, revision }: OpenedPlace): Kept<Place> => ({ document: place, revision });

function source(id: number): Source<Place> {
  const path = { path: { place_id: id } };
  return {
    name: `place.${id}`,
    put: async (place, revision) =>
      kept(
        await take(
          client.PUT("/api/places/{place_id}", {
            params: path,
            body: { place, revision },
            keepalive: true, // the last change still goes out when the window closes
          }),
        ),
      ),
    get: async () => kept(await take(client.GET("/api/places/{place_id}", { params: path }))),
    reduce,
  };
}

/** A place clashes in its name or in what is drawn in it. */
function placeWords({ path }: Clash): FieldWords {
  return {
    label: path[0] === "name" ? "Name" : path[0] === "note" ? "Note" : "What is drawn",
    value: (value) =>
      Array.isArray(value)
        ? `${value.length} things`
        : typeof value === "object"
          ? "another one"
          : String(value),
  };
}

const MEASURE: Tool = { label: "Measure", role: "note", shape: "line" };

function Editing({ opened }: { opened: OpenedPlace }) {
  const actions = usePlaceActions();
  const { refresh } = actions;
  const editor = useEditor(source(opened.id), kept(opened))!;
  const { document: place, change, undo, redo, flush } = editor;
  // What asks for the place next must see the last change, which may still be on its way.
  useEffect(() => () => void flush().then(refresh, () => undefined), [flush, refresh]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [tool, setTool] = useState<Tool | null>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [mapData, setMapData] = useState<MapData | null>(null);
  const wide = useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
  const origin = originOf(place);
  const feature = place.features.find((f) => f.id === chosen) ?? null;

  useEffect(() => {
    document.title = `${place.name} · Lark`;
  }, [place.name]);
  useUndoKeys(undo, redo);

  // Drawing and deleting are steps of their own; changes of one thing in quick succession are one.
  const setFeatures = (features: Feature[]) => editor.replace({ ...place, features });
  const changed = (next: Feature) =>
    change(["features", place.features.findIndex((f) => f.id === next.id)], next);
  const finish = (points: LatLon[]) => {
    if (tool && tool !== MEASURE) {
      const made = drawn(place, tool, points);
      setFeatures([...place.features, made]);
      setChosen(made.id);
    }
    setTool(null);
  };

  const pen = tool && (
    <Pen
      tool={tool}
      measuring={tool === MEASURE}
      origin={origin}
      onDone={finish}
      onCancel={() => setTool(null)}
    />
  );
  const fit = place.features.flatMap((f) =>
    f.coordinates.map(([lon, lat]) => ({ lon: lon!, lat: lat! })),
  );
  const map = (
    <MapView
      centre={origin ?? { lat: 0, lon: 0 }}
      terrain={opened.terrain}
      picture={place.picture}
      fit={fit}
      height={wide ? "calc(100vh - 150px)" : "62vh"}
      label={`Plan view of ${place.name}`}
    >
      <ZoneLayer zones={place.zones} />
      <FeatureLayer
        features={place.features}
        chosen={chosen}
        onChoose={tool ? undefined : setChosen}
      />
      {feature && !tool && <Handles feature={feature} onChange={changed} />}
      {pen}
    </MapView>
  );

  return (
    <Box sx={{ p: { xs: 1, md: 2 }, maxWidth: 1500 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.5, flexWrap: "wrap", mb: 1 }}>
        <Box sx={{ flex: 1, minWidth: 200 }}>
          <Words
            label="Place"
            value={place.name}
            required="Give the place a name."
            onChange={(v) => change(["name"], v)}
          />
        </Box>
        <EditorButtons editor={editor} />
        <Button
          variant="contained"
          aria-haspopup="menu"
          onClick={(e) => setMenu(e.currentTarget)}
          disabled={tool !== null}
        >
          Draw
        </Button>
        <Button variant="outlined" disabled={tool !== null} onClick={() => setTool(MEASURE)}>
          Measure
        </Button>
        {/* Gone at once, so that the first tap already reaches the plan view. */}
        <Menu
          open={menu !== null}
          anchorEl={menu}
          transitionDuration={0}
          onClose={() => setMenu(null)}
        >
          {TOOLS.map((t) => (
            <MenuItem
              key={t.label}
              onClick={() => {
                setMenu(null);
                setChosen(null);
                setTool(t);
              }}
            >
              {t.label}
            </MenuItem>
          ))}
        </Menu>
      </Box>
      <ClashDialog editor={editor} what="place" words={placeWords} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 340px" },
          gap: 1.5,
          alignItems: "start",
        }}
      >
        {map}
        <Box sx={{ minWidth: 0 }}>
          {feature ? (
            <FeatureForm
              key={feature.id}
              feature={feature}
              origin={origin}
              onChange={changed}
              onClose={() => setChosen(null)}
              onDelete={() => {
                setFeatures(place.features.filter((f) => f.id !== feature.id));
                setChosen(null);
              }}
            />
          ) : (
            <FeatureList place={place} onChoose={setChosen} />
          )}
          <PlaceFiles
            opened={opened}
            place={place}
            flush={editor.flush}
            onLooked={(day) => change(["zones_looked_at"], day)}
            onDropZones={() => change(["zones"], [])}
            onDropTerrain={() => change(["terrain"], null)}
            onDropPicture={() => change(["picture"], null)}
            onDropSurface={() => change(["surface"], null)}
            onMeasured={setFeatures}
            onImported={actions.refresh}
            onMapData={setMapData}
          />
          <Photos of={{ place: opened.id }} />
          {mapData && origin && (
            <MapReview
              data={mapData}
              opened={opened}
              origin={origin}
              onTake={(fresh) => {
                setFeatures(merged(place.features, fresh));
                setMapData(null);
              }}
              onClose={() => setMapData(null)}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}

function FeatureList({ place, onChoose }: { place: Place; onChoose: (id: string) => void }) {
  return (
    <Paper
      component="section"
      aria-label="What is drawn"
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography variant="h2">What is drawn</Typography>
      {place.features.length === 0 && (
        <Typography color="text.secondary">
          Nothing yet. Draw the take-off point first, then what stands around it.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, maxHeight: 260, overflowY: "auto" }}>
        {place.features.map((f) => (
          <li key={f.id}>
            <Button
              fullWidth
              sx={{ justifyContent: "flex-start", fontWeight: 500 }}
              onClick={() => onChoose(f.id)}
            >
              {nameOf(f)}
              {f.role === "obstacle" && f.name && f.kind ? ` (${f.kind})` : ""}
            </Button>
          </li>
        ))}
      </Box>
    </Paper>
  );
}
