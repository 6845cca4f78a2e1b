// Sliders beside typed figures: over camera stops, or over a range by ratio. Pure.

export const shown = (value) => String(Number(value.toPrecision(3)));

// "f/2.8", "1/250" and "2,5" as numbers; NaN for what is none
export function numberOf(text) {
  const parts = text.trim().replace(/^f\//i, "").replace(",", ".").split("/");
  if (parts.length > 2 || parts.some((part) => !part.trim())) return NaN;
  return Number(parts[0]) / Number(parts[1] ?? 1);
}

// where a slider stands for a typed figure; null for what is no figure above zero
export function positionOf(text, { stops, low, high, max, even = false }) {
  const value = numberOf(text.replace("\u2212", "-"));
  if (even) return Number.isFinite(value) ? Math.round((max * (Math.min(high, Math.max(low, value)) - low)) / (high - low)) : null;
  if (!(value > 0)) return null;
  if (stops) {
    const away = stops.split(" ").map((mark) => Math.abs(Math.log(numberOf(mark) / value)));
    return away.indexOf(Math.min(...away));
  }
  const share = Math.log(value / low) / Math.log(high / low);
  return Math.round(max * Math.min(1, Math.max(0, share)));
}

// the text that stands for a slider's position
export function textAt(position, { stops, low, high, max, even = false }) {
  if (stops) return stops.split(" ")[position];
  if (even) return String(Number((low + ((high - low) * position) / max).toFixed(1)));
  return shown(low * (high / low) ** (position / max));
}
