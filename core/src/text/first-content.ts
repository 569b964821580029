/** The first content of a new block stands between ‹ › and asks to be replaced. */
export const FIRST_CONTENT = /‹[^›]*›/;
const ONLY_FIRST = /^\s*(‹[^›]*›\s*)+$/;

/** Whether a text is nothing but first content. */
export const isFirstContent = (text: string): boolean => ONLY_FIRST.test(text);
