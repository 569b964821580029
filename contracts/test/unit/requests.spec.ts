import { describe, expect, it } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { ValidationError, type AnyObject, type ObjectSchema, type Schema, type SchemaDescription } from 'yup';
import { allEndpoints, PROBLEMS } from '../../src/index.js';
import { openApiOf } from '../../src/openapi.js';

type Operation = {
  readonly requestBody?: { readonly content: Record<string, { readonly schema: object }> };
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly schema: object }[];
};
const description = openApiOf(allEndpoints) as { readonly paths: Record<string, Record<string, Operation>> };
const ajv = new Ajv2020({ strict: false, allErrors: true });
const withBody = Object.entries(allEndpoints).flatMap(([name, endpoint]) => {
  const schema = endpoint.body as Schema | null;
  const operation = description.paths[endpoint.path.replace(/:(\w+)/g, '{$1}')]?.[endpoint.method.toLowerCase()];
  const described = operation?.requestBody?.content['application/json']?.schema;
  return schema?.type === 'object' && described
    ? [{ name, schema: schema as ObjectSchema<AnyObject>, takes: ajv.compile(described) }]
    : [];
});

/** What somebody might send in a field: right values of many kinds, and wrong ones. */
const ODD = [
  ...[null, undefined, true, false, 0, 1, 7, -1, 2.5, 1e9, '', 'x', 'Night boat', '/night', 'now'],
  ...['2026-12-01T09:00', '2026-12-01T08:00Z', 'Europe/Oslo', 'a@b.example', 'aaaaaaaa', 'x'.repeat(400)],
  ...[[], [1], ['x'], [[1, 2]], {}, { local: '2026-12-01T09:00', zone: 'Europe/Oslo' }],
  ...[{ kind: 'gone' }, { kind: 'not-found' }, { kind: 'nothing' }, [{ act: 'shift', pageId: 1, days: 3 }]],
];
const enumOf = (field: unknown) => ((field as SchemaDescription).oneOf ?? []) as unknown[];

function bodies(schema: ObjectSchema<AnyObject>): fc.Arbitrary<AnyObject> {
  const fields = Object.entries(schema.describe().fields);
  return fc.record(
    Object.fromEntries(
      fields.map(([key, field]) => [key, fc.constantFrom(...ODD, ...enumOf(field), ...enumOf(field))]),
    ),
    { requiredKeys: [] },
  );
}

/** What the server makes of a body; `null` where it refuses it. */
function taken(schema: Schema, body: unknown): unknown {
  try {
    return schema.validateSync(body);
  } catch (error) {
    if (error instanceof ValidationError) return null;
    throw error;
  }
}

describe('what the API is sent', () => {
  it('may be nothing in the place of a list, where the server takes that', () => {
    const takes = withBody.find(({ name }) => name === 'mendDrafts')?.takes;
    const body = { code: 'title-long', mend: 'shorten', pageIds: [1] };
    expect([null, [], 'x'].map((seen) => takes?.({ ...body, seen }))).toEqual([true, true, false]);
  });
  it('is described as it is taken: the description refuses nothing that the server takes', () => {
    let count = 0;
    for (const { name, schema, takes } of withBody)
      fc.assert(
        fc.property(bodies(schema), (body) => {
          const read = taken(schema, body);
          if (read === null) return;
          count++;
          // As it travels; the description says what is to be sent, not what is made of it.
          const sent = JSON.parse(JSON.stringify(read)) as object;
          if (!takes(sent)) throw new Error(`${name}: ${JSON.stringify(sent)} ${JSON.stringify(takes.errors)}`);
        }),
        { numRuns: 150 },
      );
    expect(withBody.length).toBeGreaterThan(40);
    expect(count).toBeGreaterThan(300);
  });

  it('says every choice of a field, and takes each of them', () => {
    let choices = 0;
    for (const { schema, takes } of withBody)
      for (const [key, field] of Object.entries(schema.describe().fields))
        for (const value of enumOf(field)) {
          choices++;
          const errors = takes({ [key]: value }) ? [] : (takes.errors ?? []);
          expect(errors.filter(({ instancePath }) => instancePath === `/${key}`)).toEqual([]);
          takes({ [key]: 'something else' });
          expect(takes.errors?.some(({ instancePath }) => instancePath === `/${key}`)).toBe(true);
        }
    expect(choices).toBeGreaterThan(10);
  });
});

it('takes a day that was emptied as none', () => {
  const { newTask, newCampaign } = allEndpoints;
  expect((newTask.body as Schema).validateSync({ text: 'Check the fares', dueDay: '' })).toMatchObject({
    dueDay: null,
  });
  expect((newCampaign.body as Schema).validateSync({ name: 'Midwinter', fromDay: '', untilDay: '' })).toMatchObject({
    fromDay: null,
    untilDay: null,
  });
});

const { changes } = (allEndpoints.preview.body as unknown as ObjectSchema<AnyObject>).fields as {
  readonly changes: Schema;
};

describe('changes of a release', () => {
  const wall = { local: '2026-12-01T09:00', zone: 'Europe/Oslo' };
  const gone = { kind: 'gone' } as const;
  const each = {
    release: { act: 'release', pageId: 3, from: 'now', until: null, afterwards: null, cutsLater: false },
    'take-off': { act: 'take-off', pageId: 3, from: wall, until: null, afterwards: gone },
    move: { act: 'move', pageId: 3, at: 'now', siteId: 1, path: '/night', leaves: null },
    shift: { act: 'shift', pageId: 3, days: -3 },
    afterwards: { act: 'afterwards', pageId: 3, afterwards: gone },
    bin: { act: 'bin', pageId: 3, afterwards: gone },
    restore: { act: 'restore', pageId: 3, isPlanned: true, path: null },
  };

  it('of every act are taken as they are, and keep nothing that belongs to another', () => {
    for (const [act, change] of Object.entries(each)) {
      expect(changes.validateSync([change])).toEqual([change]);
      for (const other of Object.values(each)) {
        const surplus = Object.fromEntries(Object.entries(other).filter(([key]) => !(key in change)));
        expect(changes.validateSync([{ ...change, ...surplus }])).toEqual([change]);
      }
      for (const key of Object.keys(change).filter(
        (one) => !['until', 'cutsLater', 'afterwards', 'leaves', 'path'].includes(one),
      ))
        expect([act, key, taken(changes, [{ ...change, [key]: undefined }])]).toEqual([act, key, null]);
    }
  });

  it('name their field where something is wrong', () => {
    const wrong = [
      each.shift,
      { ...each.move, path: 'no slash here?' },
      { ...each['take-off'], from: { ...wall, zone: 'Mars' } },
    ];
    const paths = (() => {
      try {
        changes.validateSync(wrong, { abortEarly: false });
        return [];
      } catch (error) {
        return (error as ValidationError).inner.map(({ path }) => path);
      }
    })();
    expect(paths).toEqual(['[1].path', '[2].from.zone', '[2].from']);
  });
});

it('every kind of refusal has a status that says whose turn it is', () => {
  for (const { status, title } of Object.values(PROBLEMS)) {
    expect(status).toBeGreaterThanOrEqual(400);
    expect(title).toMatch(/^\p{Lu}/u);
  }
});
