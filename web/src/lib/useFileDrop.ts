import { ref } from "vue";

/** Takes files that are dropped on something. @param take what was dropped, and where */
export function useFileDrop(take: (files: File[], event: DragEvent) => void) {
  /** Whether files hang over it. */
  const over = ref(false);
  const holds = (event: DragEvent) => !!event.dataTransfer?.types.includes("Files");

  function dragover(event: DragEvent) {
    if (!holds(event)) return;
    event.preventDefault();
    event.dataTransfer!.dropEffect = "copy";
    over.value = true;
  }

  function drop(event: DragEvent) {
    over.value = false;
    if (!holds(event)) return;
    event.preventDefault();
    take([...event.dataTransfer!.files], event);
  }

  return { over, on: { dragover, drop, dragleave: () => (over.value = false) } };
}
