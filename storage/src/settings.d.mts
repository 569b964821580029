import type { AddressStyle } from '@domatium/core/address';

/** What every process is told by its environment. */
export interface Settings {
  readonly appPort: number;
  readonly edgePort: number;
  readonly databasePort: number;
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

export const DEFAULT_PORTS: Readonly<Record<'DOMATIUM_APP_PORT' | 'DOMATIUM_EDGE_PORT' | 'DOMATIUM_DB_PORT', number>>;

/** Reads and checks the environment. Throws `SettingsError` naming every wrong value. */
export function readSettings(environment: Readonly<Record<string, string | undefined>>): Settings;

/** `readSettings` for an entry point: says what is wrong and ends the process with code 2. */
export function settingsOrExit(): Settings;
