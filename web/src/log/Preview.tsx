import { chakra } from "@chakra-ui/react";

/** The small picture that is kept of a file. */
export function Preview({ id, name, maxH }: { id: number; name: string; maxH: string }) {
  return (
    <chakra.img
      data-backdrop=""
      src={`/api/log/frames/${id}/preview`}
      alt={name}
      loading="lazy"
      width="100%"
      maxH={maxH}
      objectFit="contain"
    />
  );
}
