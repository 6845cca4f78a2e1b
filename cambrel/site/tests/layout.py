"""Finds, in a page as it stands, text that lies on other text or is cut, too narrow fields, pages that scroll sideways.
It runs in the browser.
"""

WIDTHS = (320, 360, 414, 480, 640, 720, 800, 900, 1024, 1100, 1152, 1280, 1600)

FAULTS = """
const faults = [], wide = document.documentElement.clientWidth;
if (document.documentElement.scrollWidth > wide + 1) {
  const out = [...document.body.querySelectorAll('*')].filter((e) => e.checkVisibility()
    && e.getBoundingClientRect().right > wide + 1
    && !e.closest('svg') && !scrolls(e.parentElement)).slice(0, 3);
  faults.push('the page is ' + document.documentElement.scrollWidth + ' wide: ' + out.map(named).join(', '));
}
function scrolls(e) {
  for (; e && e !== document.body; e = e.parentElement)
    if (['auto', 'scroll', 'hidden', 'clip'].includes(getComputedStyle(e).overflowX)) return true;
  return false;
}
function once(read) {
  const known = new Map();
  return (e) => {
    if (!known.has(e)) known.set(e, read(e));
    return known.get(e);
  };
}
// of each element what cuts off and how it is laid out, and where it stands, asked of the browser once
const styled = once((e) => {
  const { overflowX, overflowY, display, textOverflow } = getComputedStyle(e);
  return { overflowX, overflowY, display, textOverflow };
});
const placed = once((e) => e.getBoundingClientRect());
function named(e) {
  const kind = e.className && e.className.split ? '.' + e.className.split(' ')[0] : '';
  return e.tagName.toLowerCase() + (e.id ? '#' + e.id : '') + kind + ' "' + e.textContent.trim().slice(0, 30) + '"';
}
function clip(rect, e) {
  // what of a text is seen within all that cuts it off
  let { left, top, right, bottom } = rect;
  for (let p = e; p && p !== document.body; p = p.parentElement) {
    const s = styled(p);
    if (s.overflowX === 'visible' && s.overflowY === 'visible') continue;
    const b = placed(p);
    if (s.overflowX !== 'visible') { left = Math.max(left, b.left); right = Math.min(right, b.right); }
    if (s.overflowY !== 'visible') { top = Math.max(top, b.top); bottom = Math.min(bottom, b.bottom); }
  }
  return { left, top, right, bottom };
}
const isAtThumb = (e) => getComputedStyle(e.closest('.all-controls') ?? document.body).position === 'sticky';
const texts = [];
const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
while (walk.nextNode()) {
  const node = walk.currentNode, e = node.parentElement;
  if (!node.textContent.trim() || !e.checkVisibility({ visibilityProperty: true, opacityProperty: true })) continue;
  if (e.closest('svg, select, script, dialog, .visually-hidden, .visually-hidden-focusable')) continue;
  if (e.closest('[popover]:not(.said, .site-menu)')) continue;
  if (e.closest('.skip, .word-answers, .ask-card')) continue;
  // at the thumb, over what is scrolled beneath
  if (isAtThumb(e)) continue;
  const range = document.createRange();
  range.selectNodeContents(node);
  for (const r of range.getClientRects()) {
    const seen = clip(r, e);
    if (seen.right - seen.left > 1 && seen.bottom - seen.top > 1) texts.push({ e, ...seen });
  }
  // whatever holds a text may cut it off; what marks the cut, or can be scrolled, does not
  for (let p = e; p && p !== document.body; p = p.parentElement) {
    const s = styled(p);
    if (s.overflowX === 'visible' || s.display === 'inline') continue;
    if (s.textOverflow === 'ellipsis' || ['auto', 'scroll'].includes(s.overflowX)) break;
    if (range.getBoundingClientRect().right > placed(p).right + 1) faults.push('cut off: ' + named(e));
  }
}
for (const field of document.querySelectorAll('input[type=search]')) {
  if (field.checkVisibility() && !field.closest('dialog') && field.clientWidth < 100)
    faults.push('too narrow to type in: ' + field.name);
}
for (const control of document.querySelectorAll(
  'input:not([type=hidden], [type=radio], [type=checkbox], [type=range], [type=search]), select')) {
  if (!control.checkVisibility() || control.closest('dialog') || isAtThumb(control)) continue;
  const r = clip(control.getBoundingClientRect(), control.parentElement);
  texts.push({ e: control, ...r });
}
texts.sort((a, b) => a.left - b.left);
for (let i = 0; i < texts.length; i += 1) {
  for (let j = i + 1; j < texts.length && texts[j].left < texts[i].right - 2; j += 1) {
    const [a, b] = [texts[i], texts[j]];
    if (a.e === b.e || a.e.contains(b.e) || b.e.contains(a.e)) continue;
    const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
    const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
    if (wide > 2.5 && high > 4) faults.push(named(a.e) + ' lies on ' + named(b.e));
  }
}
return [...new Set(faults)].slice(0, 6);
"""
