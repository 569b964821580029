import type { Knex } from 'knex';

const endings = (all: string) =>
  `ALTER TABLE stored_file DROP CONSTRAINT stored_file_ending_check, ADD CONSTRAINT stored_file_ending_check CHECK (ending IN (${all}))`;
const BEFORE = "'pdf', 'mp4', 'webm', 'ics', 'csv', 'txt', 'woff2'";

/** Captions of films are files of the shelf. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(endings(`${BEFORE}, 'vtt'`));
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("DELETE FROM stored_file WHERE ending = 'vtt'");
  await knex.raw(endings(BEFORE));
}
