import { useId } from "react";
import { Input, Labelled } from "../ui/form/Field";

export interface OwnPlace {
  viewpoint_id: number;
  name: string;
}

/** The own place that a text names; undefined for coordinates and everything else. */
export const placeNamed = (places: readonly OwnPlace[], text: string): OwnPlace | undefined =>
  places.find((place) => place.name === text.trim());

/** One text for a place: the name of one's own, which are offered, or coordinates, also in a pasted link. */
export function PlaceField({
  label,
  places,
  text,
  put,
  error,
  hint,
}: {
  label: string;
  places: readonly OwnPlace[];
  text: string;
  put: (text: string) => void;
  error?: string | undefined;
  hint?: string | undefined;
}) {
  const id = useId();
  return (
    <>
      <Labelled label={label} htmlFor={id} error={error} hint={hint}>
        <Input
          value={text}
          list={`${id}-places`}
          placeholder="54.562, -3.072"
          maxLength={500}
          autoComplete="off"
          fontFamily="body"
          onChange={(event) => put(event.target.value)}
        />
      </Labelled>
      <datalist id={`${id}-places`}>
        {places.map((place) => (
          <option key={place.viewpoint_id} value={place.name} />
        ))}
      </datalist>
    </>
  );
}
