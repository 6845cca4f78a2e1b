// Which pictures to ask for: half size first while something moves, full size at rest, nothing twice. Pure.

export const HEIGHTS = [60, 80, 105, 140, 210, 280, 420, 630, 840];

// the smallest height on offer that fills so many pixels of a screen
export const heightFor = (pixels) => HEIGHTS.find((height) => height >= pixels - 1) ?? HEIGHTS.at(-1);

// the jobs for images {keep, shot, pixels}, leaving out what `loaded` (by what is kept) already shows
export function jobsFor(images, loaded, quick) {
  return images
    .map(({ keep, shot, address, pixels }) => {
      const full = heightFor(pixels);
      return { keep, shot, address, height: quick ? HEIGHTS[Math.max(0, HEIGHTS.indexOf(full) - 2)] : full };
    })
    .filter(({ keep, shot, height }) => {
      const has = loaded.get(keep);
      return !(has && has.shot === shot && has.height >= height);
    });
}

// whether a job under way {keep, shot, since} is not waited for any more: its picture is another by now, and it has taken longer than `patience`
export const isGivenUp = (job, images, now, patience) =>
  Boolean(job) && now - job.since > patience && !images.some(({ keep, shot }) => keep === job.keep && shot === job.shot);
