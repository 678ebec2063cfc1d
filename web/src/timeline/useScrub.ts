import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";

/** The timeline's ruler in the hand. */
export function useScrub(frameAt: (event: MouseEvent) => number) {
  const desk = useDesk();
  const times = useTimes();
  /** The ruler: a drag goes through the frames, with Shift it says what is played over and over. */
  let scrubbing: "frames" | "loop" | null = null;
  let began = 0;

  function scrubDown(event: PointerEvent) {
    if (event.button !== 0) return;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    scrubbing = event.shiftKey ? "loop" : "frames";
    desk.playing = false;
    began = frameAt(event);
    if (scrubbing === "frames") desk.frame = began;
  }

  function scrub(event: PointerEvent) {
    if (scrubbing === "frames") desk.frame = frameAt(event);
    if (scrubbing === "loop") times.setLoop(began, frameAt(event));
  }

  function scrubUp(event: PointerEvent) {
    if (scrubbing === "loop" && frameAt(event) === began) times.loop = null;
    scrubbing = null;
  }

  return { scrubDown, scrub, scrubUp };
}
