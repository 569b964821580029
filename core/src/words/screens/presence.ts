import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/presence`. */
export const say = {
  is: 'is',
  are: 'are',
  editingThisPage: (editing: Shown, are: Shown) => `${editing} ${are} editing this page`,
  has: 'has',
  have: 'have',
  itOpen: (looking: Shown, have: Shown) => `${looking} ${have} it open`,
  and: (all: Shown, at: Shown) => `${all} and ${at}`,
};
