import type { AddressStyle } from '@domatium/core/address';

/** What every process is told by its environment. */
export interface Settings {
  readonly appPort: number;
  readonly edgePort: number;
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
  /** The Chromium that draws small pictures of pages, `null` where there is none. */
  /** Raises all limits of calls alike. */
  readonly limitFactor: number;
  /** Room for the files of one portfolio. */
  readonly quotaGigabytes: number;
  /** Where people find the application: what links in mails begin with. */
  readonly origin: string;
  /** Proxies whose word is taken for where a request comes from. */
  readonly trustedProxies: readonly string[];
  readonly chromium: string | null;
  readonly databaseUrl: string;
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

/** `readSettings` for an entry point: says what is wrong and ends the process with code 2. */
export function settingsOrExit(): Settings;
