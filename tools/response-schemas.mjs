// npm run schemas: writes contracts/src/responses.json, the JSON Schema of what each endpoint answers, from its type.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createFormatter, createParser, SchemaGenerator } from 'ts-json-schema-generator';
import ts from 'typescript';

const ROOT = join(import.meta.dirname, '..');
const INDEX = join(ROOT, 'contracts/src/index.ts');
export const RESPONSES = join(ROOT, 'contracts/src/responses.json');

/** The endpoints of the API by name, each with the type it answers, as it is written, and the file in which it is. */
function answersOf(program) {
  const checker = program.getTypeChecker();
  const api = checker
    .getExportsOfModule(checker.getSymbolAtLocation(program.getSourceFile(INDEX)))
    .find(({ name }) => name === 'api');
  const found = [];
  for (const property of checker.getTypeOfSymbolAtLocation(api, api.valueDeclaration).getProperties()) {
    const { initializer } = property.valueDeclaration;
    const [type] = initializer?.expression?.typeArguments ?? initializer?.expression?.expression?.typeArguments ?? [];
    if (!type) throw new Error(`${property.name} does not say what it answers`);
    found.push({ name: property.name, type: type.getText(), file: type.getSourceFile().fileName });
  }
  return found;
}

/**
 * As JSON Schema 2020-12, which OpenAPI 3.1 takes, writes it. Numbers and texts that are told apart by a brand are
 * numbers and texts to everybody else.
 */
function modern(schema) {
  if (Array.isArray(schema)) return schema.map(modern);
  if (schema === null || typeof schema !== 'object') return schema;
  const plain = schema.allOf?.find(({ type }) => type === 'number' || type === 'string');
  if (plain) return modern(plain);
  const { additionalItems, ...rest } = schema;
  const written = Array.isArray(rest.items)
    ? { ...rest, prefixItems: rest.items, items: additionalItems ?? false }
    : rest;
  return Object.fromEntries(Object.entries(written).map(([key, value]) => [key, modern(value)]));
}

/** `{ definitions, answers }`: a schema of each endpoint's answer, and what they share. */
export function responseSchemas() {
  const { config } = ts.readConfigFile(join(ROOT, 'tsconfig.json'), (path) => readFileSync(path, 'utf8'));
  const { options } = ts.convertCompilerOptionsFromJson(config.compilerOptions, ROOT);
  const plain = ts.createCompilerHost(options);
  const endpoints = answersOf(ts.createProgram([INDEX], options, plain));
  const added = new Map();
  for (const { name, type, file } of endpoints)
    added.set(file, `${added.get(file) ?? ''}\nexport type Answer_${name} = ${type};`);
  const host = {
    ...plain,
    readFile: (path) => (plain.readFile(path) ?? '') + (added.get(path) ?? ''),
    getSourceFile: (path, target) => {
      const text = plain.readFile(path);
      return text === undefined ? undefined : ts.createSourceFile(path, text + (added.get(path) ?? ''), target, true);
    },
  };
  const program = ts.createProgram([INDEX, ...added.keys()], options, host);
  const settings = {
    type: '*',
    expose: 'export',
    topRef: false,
    jsDoc: 'none',
    sortProps: true,
    strictTuples: true,
    skipTypeCheck: true,
    encodeRefs: false,
    additionalProperties: false,
    functions: 'hide',
  };
  const generator = new SchemaGenerator(program, createParser(program, settings), createFormatter(settings), settings);
  const shared = {};
  const answers = {};
  for (const { name } of endpoints) {
    const { definitions, $schema: _, ...own } = generator.createSchema(`Answer_${name}`);
    const { [`Answer_${name}`]: self, ...others } = definitions ?? {};
    Object.assign(shared, others);
    answers[name] = self ?? own;
  }
  return modern({ answers, definitions: shared });
}

if (process.argv[1] === import.meta.filename) {
  writeFileSync(RESPONSES, `${JSON.stringify(responseSchemas(), null, 1)}\n`);
  console.log('contracts/src/responses.json');
}
