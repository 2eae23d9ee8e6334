/** Scrolls a frame sideways so that something in it stands in its middle; the page stays where it is. */
export function toMiddle(frame: Element | null | undefined, inside: Element | null | undefined): void {
  if (!frame || !inside) return;
  const [outer, inner] = [frame.getBoundingClientRect(), inside.getBoundingClientRect()];
  frame.scrollLeft += inner.left + inner.width / 2 - (outer.left + outer.width / 2);
}
