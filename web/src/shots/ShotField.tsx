import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Dial } from "../dials/Dial";
import { plain } from "../lib/format/numbers";
import { DateField } from "../ui/form/DateField";
import { Field } from "../ui/form/Field";
import type { Facts, Patch } from "./facts";
import { useShotWork } from "./work";

/** Values of a shot that are typed: they have a field in what is sent and in what comes back. */
export type TypedName = keyof Patch & keyof Facts;

/** A value of the shot as a text field: shown, sent, refused and kept under its name. */
export function ShotField({
  name,
  label,
  value,
  optional = false,
  clear,
  ...rest
}: {
  name: TypedName;
  label: string;
  /** How it is written; without it the number itself, without needless digits. */
  value?: string;
  /** An empty field lets the value go, so that the application chooses. */
  optional?: boolean;
  /** What an empty field sends instead of letting this value go. */
  clear?: Patch;
  unit?: string | undefined;
  hint?: ReactNode;
  step?: number;
  placeholder?: string;
  aside?: ReactNode;
  words?: boolean;
}) {
  const { shot, change, errors } = useShotWork();
  const fact = shot.facts[name];
  const written = value ?? (typeof fact === "number" ? plain(fact) : typeof fact === "string" ? fact : "");
  return (
    <Field
      {...rest}
      label={label}
      name={`shot:${shot.id}:${name}`}
      value={written}
      save={(text) =>
        change(optional && !text.trim() ? (clear ?? ({ [name]: null } as Patch)) : ({ [name]: text } as Patch))
      }
      serverError={errors[name]}
      remark={shot.remarks.find((item) => item.field === name)?.text}
    />
  );
}

/** The shot's date. */
export function ShotDate({ label, aside }: { label: string; aside?: ReactNode }) {
  const { shot, change, errors } = useShotWork();
  return (
    <DateField
      label={label}
      name={`shot:${shot.id}:date_local`}
      value={shot.facts.date_local ?? ""}
      save={(text) => change({ date_local: text.trim() || null })}
      serverError={errors.date_local}
      remark={shot.remarks.find((item) => item.field === "date_local")?.text}
      aside={aside}
    />
  );
}

/** A value of the shot as a dial; its detents and ends are what body and lens can do. */
export function ShotDial({
  name,
  label,
  scale,
  value,
  text,
  unit,
  also,
}: {
  name: "f_number" | "iso" | "focal_mm" | "wanted_shutter_s";
  label: string;
  scale: keyof Schemas["DialsOut"];
  value: number | null;
  text: string;
  unit?: string;
  /** What is sent along with a new value. */
  also?: Patch;
}) {
  const { shot, change, set, errors, forgive } = useShotWork();
  return (
    <Dial
      label={label}
      name={`shot:${shot.id}:${name}`}
      scale={shot.dials[scale]}
      value={value}
      text={text}
      {...(unit ? { unit } : {})}
      pinned={shot.facts[name] !== null}
      set={(next) => change({ ...also, [name]: next } as Patch)}
      letGo={() => set({ [name]: null } as Patch)}
      error={errors[name]}
      forgive={() => forgive(name)}
    />
  );
}
