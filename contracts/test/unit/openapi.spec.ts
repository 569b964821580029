import { expect, it } from '@jest/globals';
import { Validator } from '@seriousme/openapi-schema-validator';
import { allEndpoints, mayAct, PERMITTED, ROLES } from '../../src/index.js';
import { openApiOf } from '../../src/openapi.js';

it('describes every endpoint once, in a document that a public validator takes', async () => {
  const document = openApiOf(allEndpoints);
  const result = await new Validator().validate(document);
  expect(result.errors ?? []).toEqual([]);
  const operations = Object.values(document['paths'] as Record<string, object>).flatMap((path) => Object.keys(path));
  expect(operations).toHaveLength(Object.keys(allEndpoints).length);
});

it('lets an owner do everything and a reader nothing but read', () => {
  for (const act of Object.keys(PERMITTED) as (keyof typeof PERMITTED)[]) {
    expect(mayAct('owner', act)).toBe(true);
    expect(mayAct('reader', act)).toBe(act === 'read');
  }
  expect(ROLES).toHaveLength(4);
});
