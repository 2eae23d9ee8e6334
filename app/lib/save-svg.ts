import { saveText } from "./save-text";

/** Saves a drawing of the page as an SVG file that stands alone: colours written out, background drawn. */
export function saveSvg(svg: SVGSVGElement, name: string): void {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const look = getComputedStyle(document.documentElement);
  const view = svg.viewBox.baseVal;
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", `${view.width}`);
  copy.setAttribute("height", `${view.height}`);
  copy.removeAttribute("style");
  const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  for (const [key, value] of Object.entries({ x: view.x, y: view.y, width: view.width, height: view.height }))
    ground.setAttribute(key, `${value}`);
  ground.setAttribute("fill", "var(--paper)");
  copy.prepend(ground);
  copy.setAttribute("font-family", "IBM Plex Sans, sans-serif");
  const text = new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\((--[a-z-]+)\)/g, (_, variable: string) => look.getPropertyValue(variable).trim());
  saveText(text, name, "image/svg+xml");
}
