import { counted, type Shown } from '../shown.js';

/** What the server says of the record of who did what. */
export const say = {
  things: (count: number, isPages: boolean) => (isPages ? counted(count, 'page', 'pages') : `${count}`),
  noCampaign: 'none',
  campaignThatIsGone: 'one that is gone',
  nobody: 'nobody',
  somebodyWhoLeft: 'somebody who left',
  changedSince: (name: Shown, count: number) =>
    `${name} ${count === 1 ? 'has' : `and ${count - 1} more have`} been changed since. Change them as they are now.`,
};
