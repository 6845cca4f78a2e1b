// Undo and Redo are the browser's own Back and Forward: each entry of its history knows its place in a run of changes. Pure.

// where a page stands: by what its entry of the history says and what was kept of its run; else at the start of a fresh run
export function placed(entry, kept, fresh) {
  if (!entry?.run) return { run: fresh, step: 0, top: 0 };
  const { run, step } = entry;
  return { run, step, top: kept?.run === run ? Math.max(kept.top, step) : step };
}

// after a change: what was undone before it is gone
export const pushed = ({ run, step }) => ({ run, step: step + 1, top: step + 1 });

export const canUndo = ({ step }) => step > 0;
export const canRedo = ({ step, top }) => step < top;
