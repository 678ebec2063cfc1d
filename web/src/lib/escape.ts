/** Calls back when Esc is pressed, before anything else hears of it, until what it gives is called. */
export function onEscape(cancel: () => void): () => void {
  const hear = (event: KeyboardEvent) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    cancel();
  };
  window.addEventListener("keydown", hear, { capture: true });
  return () => window.removeEventListener("keydown", hear, { capture: true });
}
