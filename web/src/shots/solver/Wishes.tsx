import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { OPTIONS } from "../../api/facts";
import { Choice, SelectBox } from "../../ui/form/Field";
import { Mark } from "../../ui/layout/Mark";
import { ShotField } from "../ShotField";
import type { ShotWork } from "../useShot";

type Solution = Schemas["SolutionOut"];
type Goal = Schemas["WishOut"]["goal"];
type StakeName =
  | "sharp_stake"
  | "motion_stake"
  | "range_stake"
  | "noise_stake"
  | "frames_stake"
  | "minutes_stake"
  | "light_stake"
  | "keep_aperture"
  | "keep_iso"
  | "keep_filters"
  | "keep_hold"
  | "keep_start";

/** What one will have, what one would like, and what may give way. */
export function Wishes({ solution, ...work }: ShotWork & { solution: Solution | undefined }) {
  const { shot, set } = work;
  const { facts } = shot;
  const named = (goal: Goal) => solution?.wishes.filter((wish) => wish.goal === goal).map((wish) => wish.name) ?? [];
  const known = (goal: Goal) => named(goal).length > 0;
  const row = (name: StakeName, label: ReactNode, goal: Goal, lacking: string, field?: ReactNode) => (
    <Wish
      key={name}
      name={name}
      label={label}
      said={facts[name] === "free" || known(goal) ? undefined : lacking}
      field={field}
      stake={facts[name]}
      choose={(stake) => set({ [name]: stake })}
    />
  );
  return (
    <Box display="grid" gap="10px" minW="0">
      <Choice
        label="Preference"
        field="leaning"
        value={facts.leaning}
        options={OPTIONS.Leaning}
        choose={(leaning) => set({ leaning })}
      />
      <Box as="ul" display="grid" data-wishes="">
        {row("sharp_stake", "Sharp what must be", "sharp", "nothing is named sharp")}
        {row("motion_stake", named("motion").join(", ") || "How things move", "motion", "no look is wished")}
        {row("range_stake", "Highlights and shadows", "range", "not read yet")}
        {row("light_stake", "Done in the light", "light", "no time is chosen")}
        {row("noise_stake", "ISO at most", "noise", "", <Limit name="most_iso" label="ISO at most" />)}
        {row("frames_stake", "Frames at most", "frames", "", <Limit name="most_frames" label="Frames at most" />)}
        {row("minutes_stake", "Minutes at most", "minutes", "", <Limit name="most_min" label="Minutes at most" />)}
      </Box>
      <Box fontSize="small" color="muted">
        Keep what is set now
      </Box>
      <Box as="ul" display="grid">
        {row("keep_aperture", "Aperture", "aperture", "none is set")}
        {row("keep_iso", "ISO", "iso", "none is set")}
        {row("keep_filters", "Filters", "filters", "")}
        {row("keep_hold", "How it is held", "hold", "")}
        {row(
          "keep_start",
          "Start",
          "start",
          "no time is chosen",
          facts.keep_start !== "must" ? <Limit name="within_min" label="Minutes earlier or later" /> : undefined,
        )}
      </Box>
    </Box>
  );
}

/** One wish: what it is, its limit where it has one, and what it counts. A wish that nothing is known for is not judged. */
function Wish({
  name,
  label,
  said,
  field,
  stake,
  choose,
}: {
  name: string;
  label: ReactNode;
  said: string | undefined;
  field: ReactNode;
  stake: Schemas["WishOut"]["stake"];
  choose: (stake: Schemas["WishOut"]["stake"]) => void;
}) {
  return (
    <Box
      as="li"
      data-field={name}
      display="grid"
      gridTemplateColumns="minmax(0, 1fr) 84px 118px"
      gap="10px"
      alignItems="center"
      py="4px"
      borderBottom="1px solid"
      borderColor="line"
      fontSize="body"
    >
      <Box minW="0">
        {label}
        {said && (
          <Box display="flex" gap="5px" alignItems="center" color="muted" fontSize="small">
            <Mark mark="unsaid" size={4} />
            {said}
          </Box>
        )}
      </Box>
      <Box>{field}</Box>
      <SelectBox
        aria-label={`${typeof label === "string" ? label : name}: what it counts`}
        fontFamily="body"
        value={stake}
        onChange={(event) => choose(event.target.value as typeof stake)}
      >
        {OPTIONS.Stake.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </SelectBox>
    </Box>
  );
}

function Limit({ name, label }: { name: "most_iso" | "most_frames" | "most_min" | "within_min"; label: string }) {
  return (
    <Box
      css={{
        "& label": { position: "absolute", width: "1px", height: "1px", overflow: "hidden", clipPath: "inset(50%)" },
      }}
    >
      <ShotField name={name} label={label} optional={name !== "within_min"} placeholder="any" />
    </Box>
  );
}
