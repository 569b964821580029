import { allEndpoints, type Endpoint } from '../src/index.js';
import { openApiOf } from '../src/openapi.js';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';

const description = openApiOf(allEndpoints) as {
  readonly components: { readonly schemas: object };
  readonly paths: Paths;
};
type Paths = Record<string, Record<string, { readonly responses: Record<string, { readonly content: Content }> }>>;
type Content = Record<string, { readonly schema: object }>;

const ajv = new Ajv2020({ strict: false, allErrors: true });
ajv.addSchema({ $id: 'api', components: description.components });
const known = new Map<string, ValidateFunction>();

/** Throws where an answer is not what the description of the API says of it. */
export function checkAnswer({ method, path }: Endpoint, answer: unknown): void {
  const place = `${method} ${path}`;
  let validate = known.get(place);
  if (!validate) {
    const operation = description.paths[path.replace(/:(\w+)/g, '{$1}')]?.[method.toLowerCase()];
    const schema = JSON.stringify(operation?.responses['200']?.content['application/json']?.schema);
    known.set(place, (validate = ajv.compile(JSON.parse(schema.replaceAll('"#/', '"api#/')) as object)));
  }
  if (validate(JSON.parse(JSON.stringify(answer ?? null)))) return;
  const faults = validate.errors?.map(
    ({ instancePath, message, params }) => `${instancePath} ${message} ${JSON.stringify(params)}`,
  );
  throw new Error(`${place} answers what its description does not say: ${faults?.slice(0, 5).join('; ')}`);
}
