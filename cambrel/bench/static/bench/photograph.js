// The photograph that a bench is, beside the pictures of its cameras.
import { forget, show } from "../site/photograph.js";
import { afterAnswer, byId, form, refresh } from "./asking.js";

const place = () => form().classList.toggle("with-photograph", show(byId("photograph")));
afterAnswer.push(place);
place();

document.addEventListener("click", (event) => {
  if (!event.target.closest("[data-photograph-away]")) return;
  forget();
  form().querySelector("[name='photo']").value = "";
  byId("photograph").remove();
  form().classList.remove("with-photograph");
  refresh();
});
