import { Box, chakra } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { ApiError, client, type Schemas, take } from "../api/client";
import { kitQuery, presetsQuery, shotNamesQuery, shotQuery } from "../api/queries";
import { readsFrom } from "../api/session";
import { asBody } from "../lib/drafts/asBody";
import { useStoredValues } from "../lib/drafts/useStored";
import { useTitle } from "../lib/focus/useTitle";
import { PlaceField, placeNamed } from "../places/PlaceField";
import { coordinatesOf, usePosition } from "../places/usePosition";
import { lastShot } from "../shots/lastShot";
import { Button } from "../ui/form/Button";
import { Input, Labelled } from "../ui/form/Field";
import { FailedPage, Pending } from "../ui/layout/States";
import { KindList } from "./KindList";
import { PieceSelect, sentPiece } from "./PieceSelect";
import { WhenChoice } from "./WhenChoice";

/** What stands on the page until the shot is made. */
export interface Begun {
  kind: string;
  name: string;
  where: string;
  day: string;
  start_utc: string;
  /** "own:3" or "usual:body-full-24"; empty: the one that suits. */
  body: string;
  lens: string;
  support: string;
}

const NOTHING: Begun = { kind: "", name: "", where: "", day: "", start_utc: "", body: "", lens: "", support: "" };

/** A new shot on one page: kind of picture, place, time, camera. */
export default function NewShotPage() {
  useTitle("New shot");
  useEffect(() => readsFrom("/api/starting/kinds"), []);
  const [begun, put, clear] = useStoredValues<Begun>("new shot", NOTHING);
  const [error, setError] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const kinds = useQuery({ queryKey: ["starting", "kinds"], queryFn: () => take(client.GET("/api/starting/kinds")) });
  const places = useQuery({ queryKey: ["now", "begin"], queryFn: () => take(client.GET("/api/now")) });
  const kit = useQuery(kitQuery());
  const presets = useQuery(presetsQuery());
  const queries = useQueryClient();
  const navigate = useNavigate();
  const failed = kinds.error ?? places.error ?? kit.error ?? presets.error;
  if (failed) return <FailedPage error={failed} retry={() => window.location.reload()} />;
  if (!kinds.data || !places.data || !kit.data || !presets.data) return <Pending what="the page" />;
  const kind = kinds.data.kinds.find((item) => item.key === begun.kind);
  const named = placeNamed(places.data.places, begun.where);
  const where = named
    ? { viewpoint_id: named.viewpoint_id }
    : begun.where.trim()
      ? { coordinates: begun.where.trim() }
      : {};
  const suits = suiting(kind, kit.data, presets.data.presets);
  const at = (field: string) => error?.at(field);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    setError(undefined);
    try {
      const shot = await take(
        client.POST("/api/starting/shots", {
          body: asBody<Schemas["StartIn"]>({
            kind: begun.kind,
            ...where,
            ...(begun.name.trim() ? { name: begun.name.trim() } : kind ? {} : { name: "New shot" }),
            ...(kind && begun.start_utc ? { start_utc: begun.start_utc } : {}),
            ...(kind && begun.day.trim() ? { day: begun.day.trim() } : {}),
            ...sentPiece("body", begun.body || suits.body),
            ...sentPiece("lens", begun.lens || suits.lens),
            ...sentPiece("support", begun.support || suits.support),
          }),
        }),
      );
      queries.setQueryData(shotQuery(shot.id).queryKey, shot);
      for (const key of ["notebook", "kit", "locations", "now", "starting"])
        void queries.invalidateQueries({ queryKey: [key] });
      clear();
      void navigate(`/shots/${shot.id}/place`);
    } catch (failure) {
      setError(failure instanceof ApiError ? failure : new ApiError(0, (failure as Error).message));
      setBusy(false);
    }
  };
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="10px" maxW="1240px" mx="auto">
      <chakra.form
        onSubmit={(event) => void submit(event)}
        noValidate
        aria-label="New shot"
        display="grid"
        gridTemplateColumns={{ base: "1fr", lg: "minmax(0, 3fr) minmax(0, 2fr)" }}
        gap="10px 36px"
        alignItems="start"
      >
        <Box>
          <Box as="h1" fontSize="title" fontWeight="700" mb="8px">
            New shot
          </Box>
          <KindList
            kinds={kinds.data.kinds}
            kind={begun.kind}
            choose={(key) => put({ kind: key, lens: "", start_utc: "" })}
          />
        </Box>
        <Box display="grid" gap="14px" alignContent="start" pt={{ base: "0", lg: "42px" }}>
          <Where
            hint={kind ? "without a place there is neither scene nor light" : undefined}
            text={begun.where}
            places={places.data.places}
            put={(text) => put({ where: text, start_utc: "" })}
            error={at("coordinates") ?? at("viewpoint_id")}
          />
          {kind && (
            <WhenChoice
              kind={kind.key}
              where={where}
              day={begun.day}
              putDay={(day) => put({ day, start_utc: "" })}
              start={begun.start_utc}
              choose={(start_utc) => put({ start_utc })}
              error={at("day") ?? at("start_utc")}
            />
          )}
          <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px 12px">
            <PieceSelect
              label="Body"
              kind="bodies"
              own={kit.data.bodies}
              presets={presets.data.presets}
              value={begun.body || suits.body}
              choose={(body) => put({ body })}
              error={at("body_id")}
            />
            <PieceSelect
              label="Lens"
              kind="lenses"
              own={kit.data.lenses}
              presets={presets.data.presets}
              value={begun.lens || suits.lens}
              choose={(lens) => put({ lens })}
              error={at("lens_id")}
            />
            <PieceSelect
              label="Tripod"
              kind="supports"
              own={kit.data.supports}
              presets={presets.data.presets}
              value={begun.support || suits.support}
              choose={(support) => put({ support })}
              error={at("support_id")}
            />
            <Labelled label="Name" error={at("name")}>
              <Input
                value={begun.name}
                maxLength={200}
                autoComplete="off"
                fontFamily="body"
                placeholder={kind?.label ?? "Posts at the ebb"}
                onChange={(event) => put({ name: event.target.value })}
              />
            </Labelled>
          </Box>
          {error && error.fields.length === 0 && (
            <Box role="alert" color="rust">
              {error.message}
            </Box>
          )}
          <Box display="flex" gap="10px" alignItems="center" flexWrap="wrap">
            <Button type="submit" look="main" disabled={busy} fontSize="lead" px="18px">
              {busy ? "Planning …" : kind ? "Plan it" : "Begin the shot"}
            </Button>
            <CopyOf />
          </Box>
        </Box>
      </chakra.form>
    </Box>
  );
}

type Kind = Schemas["PictureKindsOut"]["kinds"][number];
type Kit = Schemas["KitOut"];
type Presets = Schemas["PresetsOut"]["presets"];

/** The kit that stands there at first: one's own, of lenses the one that suits; with an empty bag usual pieces. */
function suiting(kind: Kind | undefined, kit: Kit, presets: Presets) {
  const first = (own: readonly { id: number }[], of: string, usual?: string) =>
    own[0] ? `own:${own[0].id}` : `usual:${usual ?? presets.find((item) => item.kind === of)?.key ?? ""}`;
  return {
    // Left to the server where there is some: it takes that of the last shot.
    body: kit.bodies.length ? "" : first(kit.bodies, "bodies"),
    lens: kind
      ? kind.lens_id === null
        ? `usual:${kind.lens_preset}`
        : `own:${kind.lens_id}`
      : kit.lenses.length
        ? ""
        : first([], "lenses", "lens-24-70"),
    support: kit.supports.length ? "" : first(kit.supports, "supports"),
  };
}

function Where({
  hint,
  text,
  places,
  put,
  error,
}: {
  hint: string | undefined;
  text: string;
  places: readonly { viewpoint_id: number; name: string }[];
  put: (text: string) => void;
  error: string | undefined;
}) {
  const position = usePosition();
  const [failure, setFailure] = useState<string>();
  return (
    <Box display="flex" gap="8px" alignItems="end">
      <Box flex="1">
        <PlaceField
          label="Where: one of your places, coordinates, or a link with them"
          places={places}
          text={text}
          put={put}
          error={error ?? failure}
          hint={text.trim() ? undefined : hint}
        />
      </Box>
      {position.possible && (
        <Button
          disabled={position.busy}
          onClick={() =>
            void position.read().then(
              (found) => put(coordinatesOf(found)),
              (problem: Error) => setFailure(problem.message),
            )
          }
        >
          {position.busy ? "…" : "Here"}
        </Button>
      )}
    </Box>
  );
}

/** Another shot's plan as a beginning: offered where there are shots. */
function CopyOf() {
  const names = useQuery(shotNamesQuery());
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [failure, setFailure] = useState<string>();
  const last = lastShot();
  const source = names.data?.find((shot) => shot.id === last?.id) ?? names.data?.[0];
  if (!source) return null;
  const copy = async () => {
    try {
      const shot = await take(client.POST("/api/shots/{shot_id}/copy", { params: { path: { shot_id: source.id } } }));
      void queries.invalidateQueries({ queryKey: ["notebook"] });
      void navigate(`/shots/${shot.id}/place`);
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <>
      <Button look="quiet" onClick={() => void copy()}>
        or copy “{source.name}”
      </Button>
      {failure && (
        <Box role="alert" color="rust" fontSize="small">
          {failure}
        </Box>
      )}
    </>
  );
}
