import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { say } from '@domatium/core/words/shared';
import { say as common } from '@domatium/core/words/common';

interface Key {
  /** As tinykeys writes presses; empty where the list or the rail listens itself. */
  readonly presses: readonly string[];
  /** As it is shown, and what it does. */
  readonly shown: string;
  readonly does: string;
}

/** Every key of the application, in the order in which the help shows them. */
export const KEYS = {
  find: { presses: ['/', 'Shift+/'], shown: '/', does: say.findPages },
  goTo: { presses: ['$mod+k'], shown: 'Ctrl+K', does: say.goToAnything },
  newPage: { presses: ['n'], shown: 'n', does: common.newPage },
  listStep: { presses: [], shown: '↑ ↓', does: say.moveThroughTheListOrThrough },
  select: { presses: [], shown: 'Space', does: say.selectAPageInTheList },
  open: { presses: [], shown: 'Enter', does: say.openThePagesSheet },
  edit: { presses: ['e'], shown: 'e', does: say.editTheOpenPage },
  release: { presses: ['p'], shown: 'p', does: say.planReleaseTheOpenPage },
  close: { presses: ['Escape'], shown: 'Esc', does: say.closeTheOpenSheet },
  save: { presses: ['$mod+s'], shown: 'Ctrl+S', does: say.saveTheDraftNowEditor },
  undo: { presses: ['$mod+z'], shown: 'Ctrl+Z', does: say.undoEditorPieces },
  redo: { presses: ['$mod+Shift+z', '$mod+y'], shown: 'Ctrl+Shift+Z', does: say.redoEditorPieces },
  railStep: { presses: [], shown: 'Alt+← →', does: say.jumpToTheNextChangeOn },
  moveBlock: { presses: [], shown: 'Alt+↑ ↓', does: say.moveTheChosenBlockEditor },
  standBeside: { presses: [], shown: 'Alt+Shift+→ ←', does: say.putTheChosenBlockBeside },
  help: { presses: ['Shift+?', '?'], shown: '?', does: say.showAllKeys },
  stepUp: { presses: ['ArrowUp'], shown: '', does: '' },
  stepDown: { presses: ['ArrowDown'], shown: '', does: '' },
  moveUp: { presses: ['Alt+ArrowUp'], shown: '', does: '' },
  moveDown: { presses: ['Alt+ArrowDown'], shown: '', does: '' },
  beside: { presses: ['Alt+Shift+ArrowRight'], shown: '', does: '' },
  alone: { presses: ['Alt+Shift+ArrowLeft'], shown: '', does: '' },
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
