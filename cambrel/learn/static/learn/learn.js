// The number of an answer picks it; the strip is printed.
import { keys } from "../site/site.js";

for (const button of document.querySelectorAll("[data-key]")) {
  keys[button.dataset.key] = () => button.click();
}

document.addEventListener("click", (event) => {
  if (event.target.id === "print") print();
});
