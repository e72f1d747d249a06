import type { Schemas } from "../api/client";
import { Labelled, SelectBox } from "../ui/form/Field";

type Presets = Schemas["PresetsOut"]["presets"];

/** A piece of the bag, or a usual one that goes into it with this shot. */
export function PieceSelect({
  label,
  kind,
  own,
  presets,
  value,
  choose,
  error,
}: {
  label: string;
  kind: string;
  own: readonly { id: number; name: string }[];
  presets: Presets;
  value: string;
  choose: (value: string) => void;
  error: string | undefined;
}) {
  return (
    <Labelled label={label} error={error}>
      <SelectBox fontFamily="body" value={value} onChange={(event) => choose(event.target.value)}>
        {own.length > 0 && <option value="">as for the last shot</option>}
        {own.length > 0 && (
          <optgroup label="In your kit">
            {own.map((piece) => (
              <option key={piece.id} value={`own:${piece.id}`}>
                {piece.name}
              </option>
            ))}
          </optgroup>
        )}
        <optgroup label="Usual ones, added to your kit">
          {presets
            .filter((preset) => preset.kind === kind)
            .map((preset) => (
              <option key={preset.key} value={`usual:${preset.key}`}>
                {preset.name}
              </option>
            ))}
        </optgroup>
      </SelectBox>
    </Labelled>
  );
}

/** A choice as the request says it. */
export function sentPiece(name: "body" | "lens" | "support", value: string): Record<string, string | number> {
  const [source, key] = value.split(":", 2);
  if (!key) return {};
  return source === "usual" ? { [`${name}_preset`]: key } : { [`${name}_id`]: Number(key) };
}
