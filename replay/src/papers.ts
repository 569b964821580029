import type { PortfolioId } from '@domatium/core/plan';
import { writePaper, type DemoPaper } from '@domatium/demo';
import { sha256, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';

/** Gives a portfolio its documents; the identities by key. */
export async function insertPapers(
  database: Knex,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  papers: readonly DemoPaper[],
): Promise<Map<string, number>> {
  const ids = new Map<string, number>();
  for (const paper of papers) {
    const bytes = await writePaper(paper);
    const hash = sha256(bytes);
    await blobs.write('files', new Map([[hash, bytes]]));
    const file = { portfolio_id: portfolioId, name: paper.name, hash, ending: 'pdf', bytes: bytes.length };
    const [row] = (await database('stored_file')
      .insert({ ...file, created_at: database.fn.now() })
      .returning('id')) as { id: number }[];
    if (row) ids.set(paper.key, row.id);
  }
  return ids;
}
