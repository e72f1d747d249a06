import { Box } from "@chakra-ui/react";
import { atOneField, type Schemas } from "../../api/client";
import { OPTIONS } from "../../api/facts";
import { labelOf } from "../../lib/format/labels";
import { plain } from "../../lib/format/numbers";
import type { Shot } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Field, Select, Tick } from "../../ui/form/Field";
import { Row } from "../../ui/layout/Section";
import type { Said } from "./groupList";

type Filter = Schemas["FilterOut"];

/** One group: what it is, what it is taken of, when, and how it becomes one picture. */
export function GroupForm({
  shot,
  at,
  group,
  filters,
  set,
  save,
  remove,
  double,
}: {
  shot: Shot;
  at: number;
  group: Said;
  filters: Filter[];
  set: (next: Partial<Said>) => void;
  save: (next: Partial<Said>) => Promise<void>;
  remove: () => void;
  double: () => void;
}) {
  const { sequence, frame, depth } = shot.plan;
  // What was typed goes as it is: the server reads it, and says at this field what it cannot.
  const typed = async (next: Partial<Record<keyof Said, string | null>>) => {
    try {
      await save(next as Partial<Said>);
    } catch (failure) {
      throw atOneField(failure);
    }
  };
  const field = (name: keyof Said) => `shot:${shot.id}:group${at}:${name}`;
  const figure = (
    name: "shutter_s" | "iso" | "focus_m" | "burst_per_s" | "gap_s" | "focus_number" | "aim_row",
    label: string,
    more = {},
  ) => (
    <Field
      label={label}
      name={field(name)}
      value={
        name === "shutter_s"
          ? (group.shutter_label ?? "")
          : name === "focus_m"
            ? (group.focus_label ?? "")
            : group[name] === null
              ? ""
              : plain(Number(group[name]))
      }
      save={(text) => typed({ [name]: text.trim() || null })}
      {...more}
    />
  );
  return (
    <Box pl="24px" pt="4px" pb="6px" display="grid" gap="8px">
      <Row least="130px">
        <Select label="Role" value={group.role} options={OPTIONS.Role} choose={(role) => role && set({ role })} />
        <Field
          label="Name"
          words
          name={field("name")}
          value={group.name}
          placeholder={labelOf("Role", group.role)}
          save={(text) => typed({ name: text })}
        />
      </Row>
      <Row least="130px">
        <Select
          label="Focus"
          value={group.focus}
          options={OPTIONS.GroupFocus}
          choose={(focus) => focus && set({ focus })}
        />
        {group.focus === "position" && figure("focus_number", `Number, 1 to ${depth.positions.length}`)}
        {group.focus === "distance" && figure("focus_m", "Distance", { placeholder: "1.2 m" })}
        {group.focus === "element" && (
          <Select
            label="Element"
            value={group.focus_element_id}
            options={frame.elements.map((item) => ({ value: item.id, label: item.name }))}
            choose={(focus_element_id) => set({ focus_element_id })}
          />
        )}
        {sequence.rows > 1 && figure("aim_row", `Row, 1 to ${sequence.rows}`, { placeholder: "all" })}
      </Row>
      <Row least="130px">
        <Select
          label="Exposure"
          value={group.exposure}
          options={OPTIONS.GroupExposure}
          choose={(exposure) => exposure && set({ exposure })}
        />
        {group.exposure === "own" && figure("shutter_s", "Shutter", { placeholder: "1/2" })}
        {figure("iso", "ISO", { placeholder: group.exposure === "own" ? "as the light asks" : "as planned" })}
        <Field
          label="Brighter by"
          unit="EV"
          name={field("offset_ev")}
          value={plain(group.offset_ev)}
          step={0.5}
          save={(text) => typed({ offset_ev: text })}
        />
      </Row>
      <Row least="130px">
        <Select
          label="Filters"
          value={group.filters}
          options={OPTIONS.GroupFilters}
          choose={(next) => next && set({ filters: next })}
        />
        <Field
          label="How often"
          name={field("count")}
          value={plain(group.count)}
          step={1}
          save={(text) => typed({ count: text })}
        />
        {group.count > 1 && figure("burst_per_s", "In a burst", { unit: "a second", placeholder: "one by one" })}
        {group.count > 1 &&
          group.burst_per_s === null &&
          figure("gap_s", "Gap by a timer", { unit: "s", placeholder: "no timer" })}
      </Row>
      {group.filters === "chosen" && (
        <Box display="flex" flexWrap="wrap" gap="4px 14px">
          {filters.map((filter) => (
            <Tick
              key={filter.id}
              label={filter.name}
              checked={group.filter_ids.includes(filter.id)}
              change={(on) =>
                set({
                  filter_ids: on ? [...group.filter_ids, filter.id] : group.filter_ids.filter((id) => id !== filter.id),
                })
              }
            />
          ))}
        </Box>
      )}
      <Row least="130px">
        <Select
          label="Begins"
          value={group.start}
          options={OPTIONS.GroupStart}
          choose={(start) => start && set({ start })}
        />
        {group.start === "clock" && (
          <Field
            label="Clock"
            name={field("start_clock")}
            value={group.start_clock_label ?? ""}
            placeholder="16:52"
            save={(text) => typed({ start_clock: text.trim() || null })}
          />
        )}
        {group.start === "moment" && (
          <>
            <Select
              label="Moment"
              value={group.start_moment}
              options={sequence.moments.map((item) => ({
                value: item.name,
                label: `${item.name}, ${item.clock ?? "does not come"}`,
              }))}
              choose={(start_moment) => set({ start_moment })}
            />
            <Field
              label="After it"
              unit="min"
              name={field("start_min")}
              value={plain(group.start_min)}
              step={1}
              save={(text) => typed({ start_min: text })}
            />
          </>
        )}
        <Select
          label="Put together"
          value={group.together}
          options={OPTIONS.Together}
          choose={(together) => together && set({ together })}
        />
      </Row>
      <Box display="flex" gap="14px" alignItems="center" fontSize="small">
        <Tick label="muted" checked={group.muted} change={(muted) => set({ muted })} />
        <Box flex="1" />
        <Button look="quiet" onClick={double}>
          twice
        </Button>
        <Button look="quiet" onClick={remove}>
          remove
        </Button>
      </Box>
    </Box>
  );
}
