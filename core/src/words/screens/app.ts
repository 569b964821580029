/** What the interface says: `web/src/app/`. */
export const say = {
  signInDomatium: 'Sign in · Domatium',
  welcomeDomatium: 'Welcome · Domatium',
  aNewPasswordDomatium: 'A new password · Domatium',
  private: 'Private',
  gridDomatium: 'Settings in a grid · Domatium',
  pagesDomatium: 'Pages · Domatium',
};
