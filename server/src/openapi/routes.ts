import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { Router } from 'express';
import { OPERATION_KEYS, OPERATIONS, type Operation } from '@red-ember/contract';

/** Schemas of every answer, made out of their types by `npm run schemas`. */
const ANSWERS = JSON.parse(readFileSync(new URL('./answers.schema.json', import.meta.url), 'utf8')) as Record<string, object>;

const refTo = (name: string) => ({ $ref: `#/components/schemas/${name}` });

/** The schema of an operation's answer; null where it is no JSON. */
export function answerSchema(answer: Operation['answer']): object | null {
  if (answer === 'nothing' || answer === 'events' || answer.startsWith('file ')) return null;
  const one = (name: string) => (ANSWERS.Answers as { properties: Record<string, object> }).properties[name] ?? refTo(name);
  return answer.endsWith('[]') ? { type: 'array', items: one(answer.slice(0, -2)) } : one(answer);
}

function responseOf({ answer, status }: Operation): object {
  if (answer === 'nothing') return { 204: { description: 'Done' } };
  const schema = answerSchema(answer);
  const [type, inside] = schema
    ? ['application/json', schema]
    : answer === 'events'
      ? ['text/event-stream', { type: 'string' }]
      : [answer.slice('file '.length), { type: 'string', ...(answer.includes('text/') ? {} : { format: 'binary' }) }];
  return { [status ?? 200]: { description: 'Done', content: { [type]: { schema: inside } } } };
}

function requestOf({ body, upload }: Operation): object {
  if (body) return { requestBody: { required: true, content: { 'application/json': { schema: refTo(body) } } } };
  if (!upload) return {};
  const schema = { type: 'object', required: [upload], properties: { [upload]: { type: 'string', format: 'binary' } } };
  return { requestBody: { required: true, content: { 'multipart/form-data': { schema } } } };
}

const text = { type: 'string' };

/** The OpenAPI document, made from the table of operations, the contract's classes and the types of its answers. */
export function openApiDocument(): object {
  // The schema maker must see the same metadata storage as the contract's decorators.
  const { defaultMetadataStorage } = createRequire(import.meta.url)('class-transformer/cjs/storage') as { defaultMetadataStorage: never };
  const bodies = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    classTransformerMetadataStorage: defaultMetadataStorage,
  });
  const { Answers: _all, ...answers } = ANSWERS;
  const paths: Record<string, Record<string, object>> = {};
  for (const key of OPERATION_KEYS) {
    const operation: Operation = OPERATIONS[key];
    const { method, path, summary, query = {}, versioned } = operation;
    const names = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]!);
    (paths[path] ??= {})[method] = {
      operationId: key,
      summary,
      parameters: [
        ...names.map((name) => ({ name, in: 'path', required: true, schema: text })),
        ...Object.entries(query).map(([name, description]) => ({ name, in: 'query', required: false, description, schema: text })),
        ...(versioned
          ? [{ name: 'If-Match', in: 'header', required: true, description: 'The version started from, quoted', schema: text }]
          : []),
      ],
      ...requestOf(operation),
      responses: {
        ...responseOf(operation),
        default: { description: 'Problem details, RFC 9457', content: { 'application/problem+json': {} } },
      },
    };
  }
  // A body holds its checks and is named apart; where an answer has the same name its checks are the ones to go by.
  return {
    openapi: '3.1.0',
    info: { title: 'Red Ember', version: '1' },
    servers: [{ url: '/api/v1' }],
    paths,
    components: { schemas: { ...answers, ...bodies } },
  };
}

export function openApiRoutes(): Router {
  const router = Router();
  let document: object | null = null;
  router.get('/openapi.json', (_req, res) => {
    document ??= openApiDocument();
    res.json(document);
  });
  return router;
}
