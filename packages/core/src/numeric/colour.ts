/** A channel of sRGB, 0 … 1, as linear light (IEC 61966-2-1). */
export const linearChannel = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);

/** Linear light as a channel of sRGB, both 0 … 1: the inverse. */
export const srgbChannel = (c: number): number => (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055);

/** `#rrggbb` in sRGB as linear light. */
export function linearColour(colour: string): [number, number, number] {
  const channel = (at: number) => linearChannel(Number.parseInt(colour.slice(at, at + 2), 16) / 255);
  return [channel(1), channel(3), channel(5)];
}
