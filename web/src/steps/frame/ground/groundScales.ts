import { scaleLinear } from "d3-scale";

/** From metres around the viewpoint's mark to a drawing of the ground whose nearer edges lie so many metres away. */
export function groundScales(width: number, height: number, reach: number) {
  const perMetre = (Math.min(width, height) / 2 - 6) / reach;
  const x = scaleLinear()
    .domain([0, 1])
    .range([width / 2, width / 2 + perMetre]);
  const y = scaleLinear()
    .domain([0, 1])
    .range([height / 2, height / 2 - perMetre]);
  return { x, y, perMetre };
}
