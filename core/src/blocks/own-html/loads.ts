const ADDRESS =
  /\b(?:src|href|action|poster|data)\s*=\s*["']?\s*((?:https?:)?\/\/[^\s"'<>]+)|url\(\s*["']?((?:https?:)?\/\/[^\s"')]+)|@import\s+["']((?:https?:)?\/\/[^"']+)/gi;

/** What a piece of HTML names of the outside: each host once with how often, in the order it comes. */
export function loadedBy(markup: string): string[] {
  const hosts = new Map<string, number>();
  for (const [, a, b, c] of markup.matchAll(ADDRESS)) {
    const host = /^(?:https?:)?\/\/([^/?#\s]+)/i.exec(a ?? b ?? c ?? '')?.[1];
    if (host) hosts.set(host.toLowerCase(), (hosts.get(host.toLowerCase()) ?? 0) + 1);
  }
  return [...hosts].map(([host, count]) => (count === 1 ? host : `${host}, ${count} times`));
}
