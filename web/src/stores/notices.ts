import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";

/** So long work takes of which one is told when it is done, seconds. */
const LONG = 20;

/** How one is told of long work that is done, besides by the window's title: kept for this browser. */
export const useNotices = defineStore("notices", () => {
  const sound = useStorage("vumbral-notice-sound", false);
  const shown = useStorage("vumbral-notice-shown", false);
  const there = "Notification" in window;
  let audio: AudioContext | null = null;

  /** Two soft notes, one above the other. */
  function play() {
    audio ??= new AudioContext();
    void audio.resume();
    [523.25, 783.99].forEach((pitch, n) => {
      const [note, gain, from] = [
        audio!.createOscillator(),
        audio!.createGain(),
        audio!.currentTime + 0.16 * n,
      ];
      note.frequency.value = pitch;
      gain.gain.setValueAtTime(0, from);
      gain.gain.linearRampToValueAtTime(0.14, from + 0.02);
      gain.gain.exponentialRampToValueAtTime(0.001, from + 0.5);
      note.connect(gain).connect(audio!.destination);
      note.start(from);
      note.stop(from + 0.5);
    });
  }

  /** Turns the browser's own notices on or off. @returns a sentence where it does not allow them */
  async function show(whether: boolean): Promise<string | null> {
    shown.value = whether && there && (await Notification.requestPermission()) === "granted";
    return whether && !shown.value
      ? "The browser allows no notices from this page; allow them in its settings for it."
      : null;
  }

  /** @param title of the shot */
  function tell(title: string, text: string) {
    if (sound.value) play();
    if (shown.value && there && Notification.permission === "granted")
      new Notification(title, { body: text });
  }

  return { sound, shown, there, play, show, tell, LONG };
});
