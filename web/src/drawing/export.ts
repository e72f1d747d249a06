const STYLED = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
  "display",
];

/** Save a drawing as a file of its own: colours and fonts are written into it, handles are left out. */
export function saveSvg(drawing: SVGSVGElement, name: string): void {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const originals = drawing.querySelectorAll("*");
  copy.querySelectorAll("*").forEach((node, index) => {
    const original = originals[index];
    if (!original) return;
    const style = getComputedStyle(original);
    for (const property of STYLED) {
      const value = style.getPropertyValue(property);
      if (value) (node as SVGElement).style.setProperty(property, value);
    }
  });
  for (const handle of copy.querySelectorAll("[data-handle]")) handle.remove();
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  const paper = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  paper.setAttribute("width", "100%");
  paper.setAttribute("height", "100%");
  paper.setAttribute("fill", getComputedStyle(document.body).backgroundColor);
  copy.prepend(paper);
  const blob = new Blob([new XMLSerializer().serializeToString(copy)], { type: "image/svg+xml" });
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = `${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}.svg`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
