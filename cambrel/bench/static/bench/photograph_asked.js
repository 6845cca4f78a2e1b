// The photograph whose file left something open, beside what is asked.
import { show } from "../site/photograph.js";

show(document.querySelector(".photograph"));
