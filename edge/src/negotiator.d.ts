/** What is used of `negotiator`; its published types don't know what a server prefers. */
declare module 'negotiator' {
  export default class Negotiator {
    constructor(request: { readonly headers: { readonly 'accept-encoding': string } });
    /** The one of `available` that the client likes best; of those it likes the same, the one that is preferred. */
    encoding(available: string[], options: { readonly preferred: string[] }): string | undefined;
  }
}
