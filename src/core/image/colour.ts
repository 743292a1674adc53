/** A colour's channel as it is written for screens (sRGB, IEC 61966-2-1), in linear light; both from 0 to 1. */
export function toLinear(channel: number): number {
  if (!(channel > 0)) return 0;
  return channel <= 0.04045 ? channel / 12.92 : Math.min(1, ((channel + 0.055) / 1.055) ** 2.4);
}
