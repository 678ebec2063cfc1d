import { nextTick } from "vue";
import { useDesk } from "../stores/desk";

/** Opens a thing's card, and stands on one of its dials. */
export function useOpening() {
  const desk = useDesk();

  return async (id: string, dial?: string) => {
    const node = desk.byId.get(id)!;
    const chapter = desk.chapterOf(node);
    if (chapter === "timeline") desk.settings = true;
    else desk.chapter = chapter;
    await nextTick();
    desk.selected = null;
    await nextTick();
    desk.selected = id;
    await nextTick();
    await nextTick();
    const row = dial && document.querySelector<HTMLElement>(`[data-dial="${id}.${dial}"]`);
    if (!row) return;
    row.scrollIntoView({ block: "center" });
    // The dial's own field, never its key; after the dialog has given the focus back.
    const own = row.querySelector<HTMLElement>(
      "[role='spinbutton'], [role='switch'], input, .n-base-selection, .n-color-picker-trigger, button:not([data-key])",
    );
    setTimeout(
      () => (own?.tabIndex === -1 ? own.querySelector<HTMLElement>("[tabindex='0']") : own)?.focus(),
      60,
    );
  };
}
