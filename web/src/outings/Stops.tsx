import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { locationsQuery, shotNamesQuery } from "../api/queries";
import { plain } from "../lib/format/numbers";
import { Button } from "../ui/form/Button";
import { Field, Select, Tick } from "../ui/form/Field";
import { Mark } from "../ui/layout/Mark";
import { Row, Section } from "../ui/layout/Section";
import { complain } from "../ui/overlay/toaster";
import type { OutingWork, Stop } from "./useOuting";

const said = (act: Promise<void>) => act.catch((failure: Error) => complain(failure.message, "outing"));

/** The stops as they are listed, each with its times; one is opened to be changed. */
export function Stops(work: OutingWork & { chosen: number | null; choose: (stop: number | null) => void }) {
  const { outing, chosen, choose, changeStop } = work;
  return (
    <Section title="Stops" aside={<AddStop {...work} />}>
      <Box as="ol" data-stops="">
        {outing.stops.map((stop, at) => {
          const open = chosen === at;
          return (
            <Box
              as="li"
              key={stop.id}
              data-stop-row={at}
              borderBottom="1px solid"
              borderColor="line"
              py="5px"
              fontSize="body"
            >
              <Box display="flex" gap="8px" alignItems="baseline">
                <Box as="span" fontFamily="mono" color="muted" minW="14px">
                  {stop.taken ?? "–"}
                </Box>
                {stop.mark && stop.mark !== "holds" && <Mark mark={stop.mark} size={5} />}
                <Button
                  look="quiet"
                  px="2px"
                  fontWeight="650"
                  aria-expanded={open}
                  onClick={() => choose(open ? null : at)}
                >
                  {stop.name}
                </Button>
                <Box flex="1" minW="0" color={stop.taken === null ? "rust" : "muted"} fontSize="small">
                  {stop.taken === null
                    ? "left out"
                    : `${stop.begin_clock}, ${stop.lasts_label || "as long as it takes"}${stop.done ? ", done" : ""}`}
                </Box>
                <Button
                  look="quiet"
                  px="4px"
                  aria-label={`earlier: ${stop.name}`}
                  disabled={at === 0}
                  onClick={() => void said(changeStop(stop.id, { move: -1 }))}
                >
                  ↑
                </Button>
                <Button
                  look="quiet"
                  px="4px"
                  aria-label={`later: ${stop.name}`}
                  disabled={at === outing.stops.length - 1}
                  onClick={() => void said(changeStop(stop.id, { move: 1 }))}
                >
                  ↓
                </Button>
              </Box>
              {open && <StopForm {...work} stop={stop} close={() => choose(null)} />}
            </Box>
          );
        })}
      </Box>
    </Section>
  );
}

function StopForm({ stop, changeStop, removeStop, close }: OutingWork & { stop: Stop; close: () => void }) {
  const figure = (name: "minutes" | "leg_min" | "worth", label: string, unit: string, placeholder: string) => (
    <Field
      label={label}
      unit={unit}
      name={`stop:${stop.id}:${name}`}
      value={stop[name] === null ? "" : plain(stop[name])}
      placeholder={placeholder}
      save={(text) => changeStop(stop.id, { [name]: text.trim() || (name === "worth" ? "1" : null) })}
    />
  );
  return (
    <Box pl="22px" pt="5px" display="grid" gap="8px">
      {stop.window && (
        <Box color="muted" fontSize="small">
          {stop.window}, may begin {stop.window_clock}
          {stop.promise !== null && `, promises ${Math.round(100 * stop.promise)} of 100`}
        </Box>
      )}
      <Row least="104px">
        {figure("minutes", "Takes", "min", "as planned")}
        {figure("leg_min", "Way there", "min", "estimated")}
        {figure("worth", "Worth", "×", "1")}
        {stop.kind !== "shot" &&
          (["after_clock", "before_clock"] as const).map((name) => (
            <Field
              key={name}
              label={name === "after_clock" ? "Not before" : "No later than"}
              name={`stop:${stop.id}:${name}`}
              value={stop[`${name}_label`] ?? ""}
              placeholder={name === "after_clock" ? "12:00" : "14:00"}
              save={(text) => changeStop(stop.id, { [name]: text.trim() || null })}
            />
          ))}
      </Row>
      <Field
        words
        label="Note"
        name={`stop:${stop.id}:note`}
        value={stop.note}
        save={(text) => changeStop(stop.id, { note: text })}
      />
      <Box display="flex" gap="14px" alignItems="center" fontSize="small">
        <Tick label="done" checked={stop.done} change={(done) => void said(changeStop(stop.id, { done }))} />
        {stop.shot_id !== null && <Link to={`/shots/${stop.shot_id}/light`}>its plan</Link>}
        <Box flex="1" />
        <Button
          look="quiet"
          onClick={() => {
            close();
            void said(removeStop(stop.id));
          }}
        >
          take out
        </Button>
      </Box>
    </Box>
  );
}

/** A shot with a place, a place to scout, or a rest, put at the end of the list. */
function AddStop({ outing, addStop }: OutingWork) {
  const [adding, setAdding] = useState(false);
  const shots = useQuery({ ...shotNamesQuery(), enabled: adding }).data ?? [];
  const places = useQuery({ ...locationsQuery(), enabled: adding }).data?.locations ?? [];
  if (!adding)
    return (
      <Button look="quiet" fontSize="small" onClick={() => setAdding(true)}>
        add a stop
      </Button>
    );
  const options = [
    ...shots
      .filter((shot) => shot.location_name)
      .map((shot) => ({ value: `shot ${shot.id}`, label: `${shot.name}, ${shot.location_name}` })),
    ...places.map((place) => ({ value: `place ${place.id}`, label: `Scouting ${place.name}` })),
    { value: "rest", label: "A rest" },
  ];
  return (
    <Box minW="240px">
      <Select
        label="Add"
        value={null}
        options={options}
        choose={(value) => {
          setAdding(false);
          const [kind, id] = (value ?? "").split(" ");
          if (kind === "shot") void said(addStop({ kind: "shot", shot_id: Number(id) }));
          if (kind === "place") void said(addStop({ kind: "scouting", location_id: Number(id) }));
          if (kind === "rest")
            void said(
              addStop({ kind: "rest", note: outing.stops.some((stop) => stop.kind === "rest") ? "Rest again" : "" }),
            );
        }}
      />
    </Box>
  );
}
