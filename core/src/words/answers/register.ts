/** What the server says of the register: its files. */
export const say = {
  goesLive: 'goes live',
  comesOff: 'comes off',
  changesRevision: 'changes revision',
  moves: 'moves',
};
