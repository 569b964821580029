import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';

interface Key {
  /** As tinykeys writes presses; empty where the list or the rail listens itself. */
  readonly presses: readonly string[];
  /** As it is shown, and what it does. */
  readonly shown: string;
  readonly does: string;
}

/** Every key of the application, in the order in which the help shows them. */
export const KEYS = {
  find: { presses: ['/', 'Shift+/'], shown: '/', does: 'Find pages' },
  goTo: { presses: ['$mod+k'], shown: 'Ctrl+K', does: 'Go to anything' },
  newPage: { presses: ['n'], shown: 'n', does: 'New page' },
  listStep: { presses: [], shown: '↑ ↓', does: 'Move through the list, or through pages while a sheet is open' },
  select: { presses: [], shown: 'Space', does: 'Select a page in the list; with Shift, a range' },
  open: { presses: [], shown: 'Enter', does: 'Open the page’s sheet' },
  edit: { presses: ['e'], shown: 'e', does: 'Edit the open page' },
  release: { presses: ['p'], shown: 'p', does: 'Plan: release the open page' },
  close: { presses: ['Escape'], shown: 'Esc', does: 'Close the open sheet' },
  save: { presses: ['$mod+s'], shown: 'Ctrl+S', does: 'Save the draft now (editor)' },
  undo: { presses: ['$mod+z'], shown: 'Ctrl+Z', does: 'Undo (editor, pieces)' },
  redo: { presses: ['$mod+Shift+z', '$mod+y'], shown: 'Ctrl+Shift+Z', does: 'Redo (editor, pieces)' },
  railStep: { presses: [], shown: 'Alt+← →', does: 'Jump to the next change (on the rail’s handle)' },
  moveBlock: { presses: [], shown: 'Alt+↑ ↓', does: 'Move the chosen block (editor)' },
  help: { presses: ['Shift+?', '?'], shown: '?', does: 'Show all keys' },
  stepUp: { presses: ['ArrowUp'], shown: '', does: '' },
  stepDown: { presses: ['ArrowDown'], shown: '', does: '' },
  moveUp: { presses: ['Alt+ArrowUp'], shown: '', does: '' },
  moveDown: { presses: ['Alt+ArrowDown'], shown: '', does: '' },
} as const satisfies Record<string, Key>;

export type KeyName = keyof typeof KEYS;
/** What a key does; one that gives `false` did nothing, and the press goes on to what stands there. */
export type KeyAct = (event: KeyboardEvent) => unknown;

/** Gives a listener that does what the pressed key is for; presses in the frame of a page too, which are events of another realm. */
export function onKeys(acts: Partial<Record<KeyName, KeyAct>>): (event: KeyboardEvent) => void {
  const bindings = Object.entries(acts).flatMap(([name, act]) =>
    KEYS[name as KeyName].presses.flatMap((keys) => parseKeybinding(keys).map((press) => ({ press, act }))),
  );
  return (event) => {
    const bound = bindings.find(({ press }) => matchKeyBindingPress(event, press));
    if (bound && bound.act(event) !== false) event.preventDefault();
  };
}

/** Whether somebody types a text, so that letters are letters. */
export function isTyping({ target }: Event): boolean {
  const element = target as HTMLElement;
  return /^(INPUT|TEXTAREA|SELECT)$/.test(element.tagName) || element.isContentEditable;
}
