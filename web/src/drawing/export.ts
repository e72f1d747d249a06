import { saveAs } from "../lib/format/saveAs";

const SVG = "http://www.w3.org/2000/svg";
const OUTLINED = { fill: "none", stroke: "rgb(255, 255, 255)", "stroke-width": "0.75", "stroke-opacity": "0.6" };
const STYLED = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "opacity",
  "fill-opacity",
  "stroke-opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
  "display",
];

/** A line around something in a picture, under its name. */
export interface Outline {
  name: string;
  path: string;
}

/** Save a drawing as a file of its own: colours and fonts are written into it, handles are left out. A picture under it gets the outlines given. */
export function saveSvg(drawing: SVGSVGElement, name: string, outlines: readonly Outline[] = []): void {
  saveAs(new Blob([standAlone(drawing, outlines)], { type: "image/svg+xml" }), `${fileName(name)}.svg`);
}

/** Save rows of figures for a spreadsheet: text that it would take for a formula is kept as text. */
export function saveCsv(head: string[], rows: (string | number)[][], name: string): void {
  const cell = (value: string | number) => {
    const text =
      typeof value === "string" && /^[=+\-@\t]/.test(value) && Number.isNaN(Number(value))
        ? `'${value}`
        : String(value);
    return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  const lines = [head, ...rows].map((row) => row.map(cell).join(","));
  saveAs(new Blob([`\ufeff${lines.join("\r\n")}\r\n`], { type: "text/csv" }), `${fileName(name)}.csv`);
}

/** Save rows of figures as JSON: one object a row. */
export function saveJson(head: string[], rows: (string | number)[][], name: string): void {
  const objects = rows.map((row) => Object.fromEntries(head.map((key, index) => [key, row[index] ?? null])));
  saveAs(new Blob([JSON.stringify(objects, null, 1)], { type: "application/json" }), `${fileName(name)}.json`);
}

/** Save a drawing as a picture, twice as fine as the screen. */
export async function savePng(drawing: SVGSVGElement, name: string): Promise<void> {
  const address = URL.createObjectURL(new Blob([standAlone(drawing)], { type: "image/svg+xml" }));
  try {
    const picture = new Image();
    picture.src = address;
    await picture.decode();
    const canvas = document.createElement("canvas");
    canvas.width = 2 * drawing.clientWidth;
    canvas.height = 2 * drawing.clientHeight;
    canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
    if (blob) saveAs(blob, `${fileName(name)}.png`);
  } finally {
    URL.revokeObjectURL(address);
  }
}

const fileName = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, "-");

/** Mixed colours come as color(srgb …), which other programs may not read. */
function plainColour(value: string): string {
  return value.replace(
    /color\(srgb ([\d.]+) ([\d.]+) ([\d.]+)\)/,
    (_, ...parts: string[]) =>
      `rgb(${parts
        .slice(0, 3)
        .map((part) => Math.round(Number(part) * 255))
        .join(", ")})`,
  );
}

/** A canvas under the drawing as a picture of it. */
function embedded(canvas: HTMLCanvasElement): SVGImageElement {
  const image = document.createElementNS(SVG, "image");
  const { left, top, width, height } = canvas.style;
  for (const [name, value] of Object.entries({ x: left, y: top, width, height }))
    image.setAttribute(name, String(Number.parseFloat(value)));
  image.setAttribute("href", canvas.toDataURL("image/png"));
  return image;
}

function outlined(outlines: readonly Outline[]): SVGGElement {
  const group = document.createElementNS(SVG, "g");
  group.setAttribute("id", "outlines");
  for (const { name, path } of outlines) {
    const line = document.createElementNS(SVG, "path");
    for (const [key, value] of Object.entries({ d: path, ...OUTLINED })) line.setAttribute(key, value);
    const title = document.createElementNS(SVG, "title");
    title.textContent = name;
    line.append(title);
    group.append(line);
  }
  return group;
}

function standAlone(drawing: SVGSVGElement, outlines: readonly Outline[] = []): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const originals = drawing.querySelectorAll("*");
  copy.querySelectorAll("*").forEach((node, index) => {
    const original = originals[index];
    if (!original) return;
    const style = getComputedStyle(original);
    for (const property of STYLED) {
      const value = style.getPropertyValue(property);
      if (value) (node as SVGElement).style.setProperty(property, plainColour(value));
    }
  });
  for (const handle of copy.querySelectorAll("[data-handle]")) handle.remove();
  copy.setAttribute("xmlns", SVG);
  if (outlines.length) copy.prepend(outlined(outlines));
  for (const picture of drawing.parentElement?.querySelectorAll(":scope > canvas") ?? [])
    copy.prepend(embedded(picture as HTMLCanvasElement));
  const paper = document.createElementNS(SVG, "rect");
  paper.setAttribute("width", "100%");
  paper.setAttribute("height", "100%");
  paper.setAttribute("fill", getComputedStyle(document.body).backgroundColor);
  copy.prepend(paper);
  return new XMLSerializer().serializeToString(copy);
}
