/** Far more than anything takes on a busy machine: what is not there by then hangs. */
export const HANGS_MS = 120_000;
const LOOK_EVERY_MS = 50;

/**
 * Asks again and again until the answer is as it should be.
 * @returns that answer
 * @throws Error with what was waited for when it does not come
 */
export async function until<T>(what: string, ask: () => Promise<T>, isIt: (answer: T) => boolean): Promise<T> {
  for (const end = Date.now() + HANGS_MS; Date.now() < end;) {
    const answer = await ask();
    if (isIt(answer)) return answer;
    await new Promise((r) => setTimeout(r, LOOK_EVERY_MS));
  }
  throw new Error(`Within ${HANGS_MS / 1000} s it did not come: ${what}`);
}
