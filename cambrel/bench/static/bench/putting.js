// An answer of the same build as what stands on the page is put into it place by place, which takes a third of the time of looking for what
// has become what. Whatever is built otherwise, and what holds fields, is left to the library.

const FIELDS = "input, select, textarea"; // the reader may have set them to something else than they were sent with

// whether two nodes are of one build, so far as they can be seen without going into them
const alike = (node, fresh) => node.nodeName === fresh.nodeName && node.id === fresh.id;

// Make `node` say what `fresh` says. `mayChange(name, node, change)` holds an attribute as it is; `other(node, fresh)` does what is built otherwise.
export function put(node, fresh, mayChange, other) {
  if (node.nodeType !== Node.ELEMENT_NODE) {
    if (node.nodeValue !== fresh.nodeValue) node.nodeValue = fresh.nodeValue;
    return;
  }
  if (node.isEqualNode(fresh) && !node.querySelector(FIELDS) && !node.matches(FIELDS)) return;
  const inside = [...node.childNodes];
  const anew = [...fresh.childNodes];
  if (node.matches(FIELDS) || inside.length !== anew.length || !inside.every((child, index) => alike(child, anew[index]))) {
    other(node, fresh);
    return;
  }
  for (const { name, value } of fresh.attributes) {
    if (node.getAttribute(name) !== value && mayChange(name, node, "update")) node.setAttribute(name, value);
  }
  for (const name of node.getAttributeNames()) {
    if (!fresh.hasAttribute(name) && mayChange(name, node, "remove")) node.removeAttribute(name);
  }
  inside.forEach((child, index) => put(child, anew[index], mayChange, other));
}
