import { useMessage } from "naive-ui";
import { h } from "vue";

/** Says below what became of something; what was refused is said as it came. */
export function useSaid() {
  const message = useMessage();

  async function attempt<T>(work: () => Promise<T>): Promise<T | null> {
    try {
      return await work();
    } catch (error) {
      message.error((error as Error).message, { duration: 9000, closable: true });
      return null;
    }
  }

  /** Something was done, and perhaps can be taken back, by one button. */
  function done(text: string, back?: string, act?: () => unknown) {
    if (!back || !act) return void message.success(text, { duration: 6000, closable: true });
    const said = message.success(
      () =>
        h("span", { "data-said": "" }, [
          `${text} `,
          h("button", { class: "link", onClick: () => (said.destroy(), act()) }, back),
        ]),
      { duration: 12000, closable: true },
    );
  }

  return { attempt, done };
}
