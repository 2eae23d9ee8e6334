import type { IconNode } from "lucide";

/**
 * An icon beside words, or with a label in the place of words.
 *
 * Its lines are one constant text: a page has thirty icons, and an element for each line would cost more than the rows
 * they stand in.
 */
export function Icon({
  of,
  size,
  className,
  label,
}: {
  of: IconNode;
  size: number;
  className?: string;
  label?: string;
}) {
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      className={className ? `icon ${className}` : "icon"}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: drawings of the icon package, no input
      dangerouslySetInnerHTML={{ __html: lines(of) }}
    />
  );
}

const drawn = new WeakMap<IconNode, string>();

function lines(icon: IconNode): string {
  let text = drawn.get(icon);
  if (text === undefined) {
    text = icon
      .map(([tag, attributes]) => {
        const words = Object.entries(attributes).map(([name, value]) => ` ${name}="${value}"`);
        return `<${tag}${words.join("")}/>`;
      })
      .join("");
    drawn.set(icon, text);
  }
  return text;
}
