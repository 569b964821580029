import { mixed, ValidationError, type AnyObject, type ArraySchema, type ObjectSchema, type Schema } from 'yup';
import { InvalidError, NotFoundError } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

type Place = 'params' | 'query' | 'body';
type List = ArraySchema<unknown[] | undefined, AnyObject>;

/** Lists longer than this are looked through piece by piece, and others get their turn between the pieces. */
const PIECE = 20;
/** So many faults are told at once: whoever sends thousands wants the first of them. */
const MOST_FAULTS = 50;

/** Input as its schema says, or a refusal field by field. Lengths are looked at before anything is walked. */
export async function validated(schema: Schema, value: unknown, place: Place): Promise<unknown> {
  if (place === 'body' && (typeof value !== 'object' || value === null))
    throw new InvalidError([{ path: 'body', message: say.theRequestMustBeAJSON }]);
  try {
    return await inPieces(schema, value);
  } catch (error) {
    // What can't even be cast, as an object whose `toString` is a number, is wrong as well.
    if (error instanceof TypeError) throw new InvalidError([{ path: place, message: say.somethingInItIsOfA }]);
    if (!(error instanceof ValidationError)) throw error;
    if (place === 'params') throw new NotFoundError();
    const inner = error.inner.length ? error.inner : [error];
    throw new InvalidError(inner.slice(0, MOST_FAULTS).map(({ path, message }) => ({ path: path || place, message })));
  }
}

async function inPieces(schema: Schema, value: unknown): Promise<unknown> {
  const lists = schema.type === 'object' ? longLists(schema as ObjectSchema<AnyObject>, value as AnyObject) : [];
  if (!lists.length) return (await schema.validate(value, { abortEarly: false })) as unknown;
  const short = { ...(value as AnyObject) };
  const whole = new Map<string, unknown[]>();
  for (const [name, list] of lists) {
    const given = short[name] as unknown[];
    // A list that is too long is refused for that, and none of it is looked at.
    await shallow(list).validate(given.slice(0, mostOf(list) + 1), at(name));
    whole.set(name, await eachOf(list, given, name));
  }
  // What is asked of the whole sees them as they came; nothing looks into them once more.
  const rest = (schema as ObjectSchema<AnyObject>).shape(Object.fromEntries(lists.map(([name]) => [name, mixed()])));
  const read = (await rest.validate(short, { abortEarly: false })) as AnyObject;
  return { ...read, ...Object.fromEntries(whole) };
}

/** The lists of an object that are long, with their schemas. */
function longLists(schema: ObjectSchema<AnyObject>, value: AnyObject | null): [string, List][] {
  return Object.entries(schema.fields).flatMap(([name, field]): [string, List][] => {
    const given = value?.[name] as unknown;
    return Array.isArray(given) && given.length > PIECE && (field as Schema).type === 'array'
      ? [[name, field as List]]
      : [];
  });
}

/** Faults are told by their place in the whole; Yup takes it, and leaves it out of its types. */
const at = (path: string) => ({ abortEarly: false, path }) as { abortEarly: boolean };

/** How many a list may have by its schema. */
function mostOf(list: List): number {
  const test = list.describe().tests.find((one) => one.name === 'max');
  return Number(test?.params?.['max'] ?? 10_000);
}

const shallow = (list: List) => list.of(mixed());

async function eachOf(list: List, given: readonly unknown[], name: string): Promise<unknown[]> {
  const read: unknown[] = [];
  const faults: ValidationError[] = [];
  for (const [index, one] of given.entries()) {
    if (index % PIECE === 0) await new Promise((done) => setImmediate(done));
    try {
      read.push(await list.innerType?.validate(one, at(`${name}[${index}]`)));
    } catch (error) {
      if (!(error instanceof ValidationError)) throw error;
      faults.push(error);
      if (faults.length >= MOST_FAULTS) break;
    }
  }
  if (faults.length) throw new ValidationError(faults);
  return read;
}
