import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { SelectBox } from "../../ui/form/Field";
import { evOf, type Meter } from "../offline/tables";
import type { RunWork } from "../offline/useRun";
import { NumberAsk } from "./NumberAsk";
import { Thumb } from "./Thumb";

/** What was found otherwise: the frames that are left are planned again by it. */
export function Differs({ work, close }: { work: RunWork; close: () => void }) {
  const tell = (...said: Parameters<RunWork["tell"]>) => {
    void work.tell(...said);
    close();
  };
  return (
    <Box display="grid" gap="16px" fontSize="heading">
      <Reading work={work} tell={tell} />
      <Part title="Running late">
        <Box display="grid" gridTemplateColumns="repeat(4, 1fr)" gap="8px">
          {[5, 10, 20, 45].map((minutes) => (
            <Thumb key={minutes} onClick={() => tell("late", { value: minutes })}>
              {minutes} min
            </Thumb>
          ))}
        </Box>
        {work.run.lateMin > 0 && <Box color="muted">{work.run.lateMin} min late so far; this is added to it.</Box>}
      </Part>
      {work.sheet.filters.length > 0 && (
        <Part title="A filter is missing">
          <Box display="grid" gap="8px">
            {work.sheet.filters.map((filter) => (
              <Thumb
                key={filter.id}
                disabled={work.run.missing.includes(filter.id)}
                onClick={() => tell("filter_missing", { value: filter.id, text: filter.name })}
              >
                {filter.name}
                {filter.cost && `, ${filter.cost}`}
                {work.run.missing.includes(filter.id) && " (missing)"}
              </Thumb>
            ))}
          </Box>
        </Part>
      )}
      {work.waiting !== null && <Found work={work} tell={tell} />}
      {work.waiting === null && <Box color="muted">{work.sheet.tables.ends} Wind and distances need the server.</Box>}
    </Box>
  );
}

type Tell = (...said: Parameters<RunWork["tell"]>) => void;

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Box display="grid" gap="8px" borderTop="1px solid" borderColor="line" pt="8px">
      <Box as="h3" fontWeight="650">
        {title}
      </Box>
      {children}
    </Box>
  );
}

function Reading({ work, tell }: { work: RunWork; tell: Tell }) {
  const { meter, frames } = work.sheet;
  const first = frames[0];
  const has = (marks: Meter["apertures"], label: string | undefined) =>
    marks.find((mark) => mark.label === label)?.label;
  const [said, setSaid] = useState({
    aperture: has(meter.apertures, first?.aperture) ?? meter.apertures[0]?.label ?? "",
    shutter: "1/60",
    iso: has(meter.isos, first?.iso) ?? "100",
  });
  const ev = evOf(meter, said);
  const rows = [
    ["aperture", "Aperture", meter.apertures],
    ["shutter", "Shutter", meter.shutters],
    ["iso", "ISO", meter.isos],
  ] as const;
  return (
    <Part title="A reading of the light, with no filter on">
      <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px">
        {rows.map(([name, words, marks]) => (
          <Box as="label" key={name} display="grid" gap="3px" fontSize="body">
            {words}
            <SelectBox
              value={said[name]}
              minH="56px"
              fontSize="heading"
              aria-label={`${words} of the reading`}
              onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
            >
              {marks.map((mark) => (
                <option key={mark.label}>{mark.label}</option>
              ))}
            </SelectBox>
          </Box>
        ))}
      </Box>
      <Thumb
        look="main"
        disabled={ev === null}
        onClick={() =>
          ev !== null &&
          tell("reading", {
            value: ev,
            text: `${said.aperture} ${said.shutter} ISO ${said.iso}`,
            f_number: said.aperture,
            shutter_s: said.shutter,
            iso: said.iso,
          })
        }
      >
        {ev === null ? "Choose all three" : `EV ${ev.toFixed(1)} at ISO 100: plan with it`}
      </Thumb>
    </Part>
  );
}

function Found({ work, tell }: { work: RunWork; tell: Tell }) {
  const [element, setElement] = useState(String(work.sheet.elements[0]?.id ?? ""));
  return (
    <>
      <Part title="Wind">
        <NumberAsk
          label="Wind in m/s"
          placeholder="m/s"
          words="It blows so"
          allowed={(speed) => speed >= 0 && speed <= 90}
          wrong="Wind blows at 0 to 90 m/s."
          tell={(speed) => tell("wind", { value: speed })}
        />
      </Part>
      {work.sheet.elements.length > 0 && (
        <Part title="Something stands elsewhere">
          <SelectBox
            value={element}
            minH="56px"
            aria-label="What stands elsewhere"
            onChange={(event) => setElement(event.target.value)}
          >
            {work.sheet.elements.map((item) => (
              <option key={item.id} value={item.id}>
                {item.name}, planned at {item.distance}
              </option>
            ))}
          </SelectBox>
          <NumberAsk
            label="Distance in metres"
            placeholder="m"
            words="It stands there"
            allowed={(distance) => distance > 0}
            wrong="A distance over 0 m is needed."
            tell={(distance) => tell("stands_at", { value: distance, text: element })}
          />
        </Part>
      )}
    </>
  );
}
