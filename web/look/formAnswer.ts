import { ref, type Ref } from 'vue';
import { formProblems, lineProblems } from '../net/problem.ts';

/** The panel of a form, as far as what is wrong with it goes. */
type Panel = Readonly<Ref<{ focusWrong(): Promise<void> } | null>>;

/** What is wrong with a form, and whether it is on its way. Lines of it are named whole (`lines[0].quantity`). */
export function useFormAnswer(panel: Panel) {
  const wrong = ref<Record<string, string>>({});
  const whole = ref('');
  const busy = ref(false);

  /**
   * Sends the form; what the server refuses stands next to its field, and the hand is put there.
   * @param mistakes what is wrong before it is sent: then it is not
   */
  async function send(
    mistakes: Readonly<Record<string, string | false>>,
    work: () => Promise<void>,
  ): Promise<void> {
    const found = Object.entries(mistakes).filter((one): one is [string, string] => Boolean(one[1]));
    [wrong.value, whole.value] = [Object.fromEntries(found), ''];
    if (found.length > 0) return panel.value?.focusWrong();
    busy.value = true;
    try {
      await work();
    } catch (error) {
      const said = formProblems(error);
      [wrong.value, whole.value] = [{ ...said.fields, ...lineProblems(error) }, said.whole];
      await panel.value?.focusWrong();
    } finally {
      busy.value = false;
    }
  }

  return { wrong, whole, busy, send };
}
