import { Box } from "@chakra-ui/react";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { OPTIONS } from "../../api/facts";
import { labelOf } from "../../lib/format/labels";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Choice } from "../../ui/form/Field";
import { PickMenu } from "../../ui/form/PickMenu";
import { Mark } from "../../ui/layout/Mark";
import { Section } from "../../ui/layout/Section";
import { GroupForm } from "./GroupForm";
import { listed, moved, type Said, sent } from "./groupList";

type Filter = Schemas["FilterOut"];

/** What the picture is made of: groups of frames, in a list that is edited by hand or with the keyboard. */
export function Groups(work: ShotWork & { filters: Filter[] }) {
  const { shot, change, set, asked, errors } = work;
  const { sequence } = shot.plan;
  const [open, setOpen] = useState<number>();
  const list = useRef<HTMLElement>(null);
  const now = listed(shot, asked);
  const send = (groups: Said[]) => set({ frame_groups: groups.map(sent) });
  const replaced = (at: number, next: Partial<Said>) =>
    listed(shot, asked).map((group, other) => (other === at ? { ...group, ...next } : group));
  const focusOn = (at: number) =>
    // The list is made again first.
    requestAnimationFrame(() => list.current?.querySelectorAll<HTMLElement>("[data-group-row]")[at]?.focus());
  const move = (at: number, by: -1 | 1) => {
    if (at + by < 0 || at + by >= now.length) return;
    set({ frame_groups: moved(now, at, by).map(sent), frame_order: "pinned" });
    if (open !== undefined) setOpen(open === at ? at + by : open === at + by ? at : open);
    focusOn(at + by);
  };
  const remove = (at: number) => {
    send(now.filter((_, other) => other !== at));
    setOpen(undefined);
    focusOn(Math.max(0, at - 1));
  };
  const double = (at: number) => {
    const group = now[at];
    if (!group) return;
    send([...now.slice(0, at + 1), group, ...now.slice(at + 1)]);
    focusOn(at + 1);
  };
  const keys = (event: KeyboardEvent, at: number) => {
    // Keys of the fields inside are theirs.
    if (event.target !== event.currentTarget) return;
    const act: Record<string, () => void> = {
      Enter: () => setOpen(open === at ? undefined : at),
      ArrowUp: () => (event.altKey ? move(at, -1) : focusOn(Math.max(0, at - 1))),
      ArrowDown: () => (event.altKey ? move(at, 1) : focusOn(Math.min(now.length - 1, at + 1))),
      Delete: () => remove(at),
    };
    const found = act[event.key];
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    found();
  };
  return (
    <Section
      title="Groups of frames"
      aside={
        <Box display="flex" gap="6px">
          <PickMenu
            label="begin with"
            options={sequence.ways.map((way) => ({ value: way.name, label: way.name }))}
            pick={(name) => {
              const way = sequence.ways.find((item) => item.name === name);
              if (!way) return;
              setOpen(undefined);
              // What is planned anyway needs no list of one's own.
              send(way === sequence.ways[0] ? [] : way.groups);
            }}
          />
          <Button
            look="quiet"
            fontSize="small"
            onClick={() => {
              const last = now.at(-1);
              if (!last) return;
              send([
                ...now,
                {
                  ...last,
                  role: "whole",
                  name: "",
                  muted: false,
                  start: "at_once",
                  start_moment: null,
                  start_clock: null,
                },
              ]);
              setOpen(now.length);
            }}
          >
            add a group
          </Button>
        </Box>
      }
    >
      <Box as="ol" ref={list} data-groups="" data-field="frame_groups" display="grid">
        {now.map((group, at) => {
          const planned = sequence.groups[at];
          const wide = open === at;
          return (
            <Box
              as="li"
              // biome-ignore lint/suspicious/noArrayIndexKey: groups have no other identity
              key={at}
              data-group-row={at}
              tabIndex={0}
              aria-label={`${group.name || labelOf("Role", group.role)}: Enter opens, Alt with an arrow moves, Delete removes`}
              onKeyDown={(event: KeyboardEvent) => keys(event, at)}
              borderBottom="1px solid"
              borderColor="line"
              py="4px"
              opacity={group.muted ? 0.6 : 1}
            >
              <Box display="flex" alignItems="baseline" gap="8px" fontSize="body">
                <Box as="span" fontFamily="mono" color="muted" minW="16px">
                  {planned?.taken ?? "–"}
                </Box>
                <Button
                  look="quiet"
                  px="2px"
                  fontWeight="650"
                  aria-expanded={wide}
                  onClick={() => setOpen(wide ? undefined : at)}
                >
                  {group.name || labelOf("Role", group.role)}
                </Button>
                {planned?.mark && planned.mark !== "holds" && <Mark mark={planned.mark} size={5} />}
                <Box as="span" color="muted" fontSize="small" flex="1" minW="0">
                  {group.muted ? "muted" : (planned?.exposure_words ?? "")}
                  {group.count > 1 && ` × ${group.count}`}
                </Box>
                <Button look="quiet" px="4px" aria-label="earlier" disabled={at === 0} onClick={() => move(at, -1)}>
                  ↑
                </Button>
                <Button
                  look="quiet"
                  px="4px"
                  aria-label="later"
                  disabled={at === now.length - 1}
                  onClick={() => move(at, 1)}
                >
                  ↓
                </Button>
              </Box>
              {planned && !wide && planned.remarks.length > 0 && planned.mark !== "holds" && (
                <Box fontSize="small" color="muted" pl="24px">
                  {planned.remarks.join(" ")}
                </Box>
              )}
              {wide && (
                <GroupForm
                  {...work}
                  at={at}
                  group={group}
                  set={(next) => send(replaced(at, next))}
                  save={(next) => change({ frame_groups: replaced(at, next).map(sent) })}
                  remove={() => remove(at)}
                  double={() => double(at)}
                />
              )}
            </Box>
          );
        })}
      </Box>
      {errors.frame_groups && (
        <Box role="alert" color="rust" fontSize="small">
          {errors.frame_groups}
        </Box>
      )}
      {now.length > 1 && (
        <Choice
          label="Order"
          field="frame_order"
          value={shot.facts.frame_order}
          options={OPTIONS.FrameOrder}
          choose={(frame_order) => set({ frame_order })}
        />
      )}
    </Section>
  );
}
