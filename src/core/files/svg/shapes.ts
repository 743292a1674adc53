/** The basic shapes of SVG as paths, which is how its specification describes them. */

type Attributes = Readonly<Record<string, string>>;

/** The path that an element draws; null for one that draws none. */
export function pathOf(name: string, attributes: Attributes): string | null {
  const number = (key: string, otherwise = 0): number => {
    const value = parseFloat(attributes[key] ?? "");
    return Number.isFinite(value) ? value : otherwise;
  };
  switch (name) {
    case "path":
      return attributes.d ?? "";
    case "line":
      return `M${number("x1")} ${number("y1")}L${number("x2")} ${number("y2")}`;
    case "polyline":
    case "polygon": {
      const numbers = (attributes.points ?? "")
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      const points = numbers.slice(0, numbers.length - (numbers.length % 2));
      if (points.length < 4 || !points.every(Number.isFinite)) return "";
      return `M${points.join(" ")}${name === "polygon" ? "Z" : ""}`;
    }
    case "circle":
      return ellipse(number("cx"), number("cy"), number("r"), number("r"));
    case "ellipse":
      return ellipse(number("cx"), number("cy"), number("rx"), number("ry"));
    case "rect":
      return rectangle(
        number("x"),
        number("y"),
        number("width"),
        number("height"),
        number("rx", NaN),
        number("ry", NaN),
      );
    default:
      return null;
  }
}

function ellipse(x: number, y: number, rx: number, ry: number): string {
  if (!(rx > 0 && ry > 0)) return "";
  const arc = (to: string) => `A${rx} ${ry} 0 0 1 ${to}`;
  return `M${x + rx} ${y}${arc(`${x} ${y + ry}`)}${arc(`${x - rx} ${y}`)}${arc(`${x} ${y - ry}`)}${arc(`${x + rx} ${y}`)}Z`;
}

function rectangle(x: number, y: number, width: number, height: number, asked: number, asked2: number): string {
  if (!(width > 0 && height > 0)) return "";
  // One radius that is not said is as the other.
  const rx = Math.min(width / 2, Math.max(0, Number.isFinite(asked) ? asked : Number.isFinite(asked2) ? asked2 : 0));
  const ry = Math.min(height / 2, Math.max(0, Number.isFinite(asked2) ? asked2 : rx));
  if (rx === 0 || ry === 0) return `M${x} ${y}h${width}v${height}h${-width}Z`;
  const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
  return [
    `M${x + rx} ${y}h${width - 2 * rx}${arc(rx, ry)}v${height - 2 * ry}${arc(-rx, ry)}`,
    `h${2 * rx - width}${arc(-rx, -ry)}v${2 * ry - height}${arc(rx, -ry)}Z`,
  ].join("");
}
