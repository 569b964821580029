/** Roles in a portfolio. */
export const ROLES = ['owner', 'publisher', 'author', 'reader'] as const;
export type Role = (typeof ROLES)[number];

/** What a person can do, and which roles may: the one table of design section 7. */
export const PERMITTED = {
  read: ['owner', 'publisher', 'author', 'reader'],
  write: ['owner', 'publisher', 'author'],
  release: ['owner', 'publisher'],
  manage: ['owner'],
} as const satisfies Record<string, readonly Role[]>;
export type Act = keyof typeof PERMITTED;

/** Who may call an endpoint: anyone, anyone signed in, or a member of the portfolio whose role permits the act. */
export type Who = 'anyone' | 'signed-in' | Act;

export function mayAct(role: Role, act: Act): boolean {
  return (PERMITTED[act] as readonly Role[]).includes(role);
}
