import { ref } from "vue";
import { api } from "../api/client";
import { past } from "../api/past";
import { useDesk } from "../stores/desk";

/** So many pictures are on their way at once. */
const SENT = 4;
/** How often one asks whether the movie is there, ms. */
const ASK = 150;
const QUALITY = 0.92;

const wait = (time: number) => new Promise((done) => setTimeout(done, time));

/** Small movies of what is drawn in the browser. */
export function useClip() {
  const desk = useDesk();
  /** What is being done, in words; nothing while there is none in the making. */
  const going = ref("");
  let wanted = false;

  async function send(picture: HTMLCanvasElement, n: number) {
    const blob = await new Promise<Blob | null>((done) => picture.toBlob(done, "image/jpeg", QUALITY));
    return (await api.sendFile(blob!, `view-${n}.jpg`)).file;
  }

  /** @param frames which ones; @param draw gives a picture of one, or nothing where there is none
   * @param title what the file is called */
  async function make(
    frames: number[],
    draw: (frame: number) => Promise<HTMLCanvasElement | null>,
    title: string,
  ) {
    if (going.value) return;
    wanted = true;
    const files: Promise<string>[] = [];
    const done = await desk.attempt(async () => {
      for (const [n, frame] of frames.entries()) {
        if (!wanted) return null;
        going.value = `frame ${n + 1} of ${frames.length}`;
        const picture = await draw(frame);
        if (picture) files.push(send(copy(picture), n));
        if (files.length >= SENT) await files[files.length - SENT];
      }
      if (!files.length) throw new Error("There is nothing to make a movie of yet; run a draft first.");
      going.value = "writing it";
      const { job } = await past.clip(await Promise.all(files), desk.rate);
      for (;;) {
        const now = await api.job(job);
        if (now.state === "done") return now.result!.clip as string;
        if (now.state === "failed") throw new Error(now.error ?? "The movie could not be made.");
        if (now.state === "cancelled" || !wanted) return null;
        await wait(ASK);
      }
    });
    going.value = "";
    if (!done) return;
    const link = document.createElement("a");
    link.href = past.clipUrl(done, title.replace(/[^\w -]+/g, " "));
    link.download = "";
    link.dataset.clip = done;
    link.click();
    desk.announce("The movie is among your downloads.");
  }

  /** The next picture may be drawn while this one is packed. */
  function copy(picture: HTMLCanvasElement): HTMLCanvasElement {
    const own = document.createElement("canvas");
    own.width = picture.width;
    own.height = picture.height;
    own.getContext("2d", { alpha: false })!.drawImage(picture, 0, 0);
    return own;
  }

  return { going, make, stop: () => (wanted = false) };
}
