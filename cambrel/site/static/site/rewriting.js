// A line of words with a piece of it changed. Places count letters as the server does, which are not halves of a letter.
export function rewritten(line, { start, end, before = "" }, value) {
  const letters = Array.from(line);
  const piece = start === end && value ? before + value : value;
  return [...letters.slice(0, start), piece, ...letters.slice(end)].join("").replace(/\s+/g, " ").trim();
}
