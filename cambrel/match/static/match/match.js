// What is kept is the question as it stands in the address now.
document.body.addEventListener("htmx:afterSettle", () => {
  document.querySelectorAll("[data-now]").forEach((field) => (field.value = location.pathname + location.search));
});
