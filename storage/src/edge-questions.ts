import { resolve, visibleOf, type RouteTable } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import type { Query } from './query.js';

/** What an edge is asked: what a visitor would get at an address at an instant. */
export interface EdgeQuestion {
  readonly host: string;
  readonly path: string;
  readonly at: Instant;
}

/** Answers of a table, as short texts that are the same where a visitor would notice no difference. */
export function answersTo(routes: RouteTable, questions: readonly EdgeQuestion[]): string[] {
  return questions.map(({ host, path, at }) => visibleOf(resolve(routes, { host, path }, at)));
}

/** Answers what is asked of an edge and was not answered by it yet; `versions` are those of the hosts it has. */
export async function answerQuestions(
  query: Query,
  edgeId: string,
  routes: RouteTable,
  versions: () => Readonly<Record<string, number>>,
): Promise<void> {
  const open = await query<{ id: number; questions: readonly EdgeQuestion[] }>(
    'SELECT id, questions FROM edge_question q WHERE NOT EXISTS (SELECT FROM edge_answer a WHERE a.question_id = q.id AND a.edge_id = $1)',
    [edgeId],
  );
  for (const { id, questions } of open)
    await query(
      'INSERT INTO edge_answer (question_id, edge_id, versions, answers) SELECT id, $2, $3, $4 FROM edge_question WHERE id = $1 ON CONFLICT DO NOTHING',
      [id, edgeId, JSON.stringify(versions()), JSON.stringify(answersTo(routes, questions))],
    );
}
