import type { AddressStyle } from '@domatium/core/address';

/** What every process is told by its environment. */
export interface Settings {
  readonly appPort: number;
  /** The address of this machine the application listens on; likewise the edge. */
  readonly appBind: string;
  readonly edgePort: number;
  readonly edgeBind: string;
  readonly databasePort: number;
  /** Where the simulated outside world of the demo listens. */
  readonly standinsPort: number;
  /** Where the simulated mail server listens. */
  readonly mailPort: number;
  /** The mail server that is used, `null` where none is. */
  readonly smtpUrl: string | null;
  readonly mailFrom: string;
  /** The host private links open on: never the application's own. */
  readonly privateHost: string;
  /** Raises all limits of calls alike. */
  readonly limitFactor: number;
  /** Room for the files of one portfolio. */
  readonly quotaGigabytes: number;
  /** Where people find the application: what links in mails begin with. */
  readonly origin: string;
  /** Proxies whose word is taken for where a request comes from. */
  readonly trustedProxies: readonly string[];
  /** A new portfolio gets a host below this one. */
  readonly installationHost: string;
  /** Private ports on which each process tells figures and health, `null` for none. */
  readonly metricsPorts: { readonly server: number; readonly worker: number; readonly edge: number } | null;
  readonly metricsBind: string;
  readonly logLevel: string;
  /** Connections the server holds at most. */
  readonly poolSize: number;
  /** Memory an edge keeps for pages, in bytes. */
  readonly cacheBytes: number;
  /** The Chromium that draws small pictures of pages, `null` where there is none. */
  readonly chromium: string | null;
  readonly databaseUrl: string;
  /** The database as edges reach it: with a role of their own where there is one. */
  readonly edgeDatabaseUrl: string;
  /** Whether the database is one that our own commands bring up. */
  readonly isOwnDatabase: boolean;
  /** Folder for blobs, spool and snapshots. */
  readonly dataFolder: string;
  readonly style: AddressStyle;
}

/** Wrong settings, all at once, each by its name. */
export class SettingsError extends Error {
  constructor(faults: readonly string[]);
  readonly faults: readonly string[];
}

export const DEFAULT_PORTS: Readonly<
  Record<
    'DOMATIUM_APP_PORT' | 'DOMATIUM_EDGE_PORT' | 'DOMATIUM_DB_PORT' | 'DOMATIUM_STANDINS_PORT' | 'DOMATIUM_MAIL_PORT',
    number
  >
>;

/** Reads and checks the environment. Throws `SettingsError` naming every wrong value. */
export function readSettings(environment: Readonly<Record<string, string | undefined>>): Settings;

/** Names and meanings of all settings, with what they are where they are not given (`null`: follows from others). */
export function describeSettings(): readonly {
  readonly name: string;
  readonly meaning: string;
  readonly otherwise: string | null;
}[];

/** Names that look like settings of ours and are none. */
export function unknownSettings(environment: Readonly<Record<string, string | undefined>>): string[];

/** `readSettings` for an entry point: says what is wrong and ends the process with code 2. */
export function settingsOrExit(): Settings;
