import { shallowRef } from "vue";

/** Something that a person must decide before it goes on. */
export interface Question {
  text: string;
  yes: string;
  no: string;
  act: () => unknown;
}

/** One question at a time; a new one takes the place of the one before. */
export function useQuestion() {
  const question = shallowRef<Question | null>(null);

  function put(asked: Question) {
    question.value = asked;
  }

  function answer(yes: boolean) {
    const asked = question.value;
    question.value = null;
    if (yes) void asked?.act();
  }

  return { question, put, answer };
}
