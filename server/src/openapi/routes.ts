import { Router } from 'express';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { createRequire } from 'node:module';
import {
  AlignLogBody,
  CalibrationBody,
  ChosenWindowBody,
  CopyStudyBody,
  HandReadingsBody,
  ImportRunBody,
  InstrumentBody,
  InterventionBody,
  JoinLogBody,
  MarkBody,
  MoreTimeBody,
  MountBody,
  NewSurveyBody,
  PreflightBody,
  PutLimitBody,
  SignOffBody,
  StartRunBody,
  StopRunBody,
  StudyBody,
  SurveyBody,
} from '@red-ember/contract';

interface Operation {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  summary: string;
  body?: new () => object;
  status?: number;
}

const OPERATIONS: Operation[] = [
  { method: 'get', path: '/studies', summary: 'Studies on the shelf; with trash=true, those in the trash' },
  { method: 'post', path: '/studies', summary: 'Create a study', body: StudyBody, status: 201 },
  { method: 'get', path: '/studies/{id}', summary: 'A study, with its version as ETag' },
  { method: 'put', path: '/studies/{id}', summary: 'Replace a study; needs If-Match', body: StudyBody },
  { method: 'delete', path: '/studies/{id}', summary: 'Put a study in the trash', status: 204 },
  { method: 'post', path: '/studies/{id}/restore', summary: 'Bring a study back from the trash' },
  { method: 'post', path: '/studies/{id}/copy', summary: 'A new study after this one, without runs', body: CopyStudyBody, status: 201 },
  { method: 'get', path: '/studies/{id}/history', summary: 'What was changed, and which results moved' },
  { method: 'get', path: '/studies/{id}/surveys', summary: 'Camera pictures of a study' },
  { method: 'post', path: '/studies/{id}/surveys', summary: 'Read a camera picture', body: NewSurveyBody, status: 201 },
  { method: 'get', path: '/surveys/{id}', summary: 'A camera picture with its temperatures' },
  { method: 'put', path: '/surveys/{id}', summary: 'What is said about a picture; needs If-Match', body: SurveyBody },
  { method: 'delete', path: '/surveys/{id}', summary: 'Put a picture in the trash', status: 204 },
  { method: 'post', path: '/surveys/{id}/restore', summary: 'Bring a picture back' },
  { method: 'get', path: '/studies/{id}/agreements', summary: 'Spots on one place, held against each other' },
  { method: 'get', path: '/studies/{id}/scatter', summary: 'How well the bench repeats, untouched and refitted' },
  { method: 'get', path: '/record', summary: 'Predictions of all studies and the record they make' },
  { method: 'get', path: '/limits', summary: 'Limits library, by class of component' },
  { method: 'put', path: '/limits', summary: 'Change the limits of one class; needs If-Match', body: PutLimitBody },
  { method: 'get', path: '/instruments', summary: 'Instruments of the bench; with trash=true, those in the trash' },
  { method: 'post', path: '/instruments', summary: 'Write down an instrument', body: InstrumentBody, status: 201 },
  { method: 'put', path: '/instruments/{id}', summary: 'Replace an instrument; needs If-Match', body: InstrumentBody },
  { method: 'delete', path: '/instruments/{id}', summary: 'Put an instrument in the trash', status: 204 },
  { method: 'post', path: '/instruments/{id}/restore', summary: 'Bring an instrument back' },
  { method: 'post', path: '/instruments/{id}/calibrations', summary: 'Write down a calibration', body: CalibrationBody, status: 201 },
  { method: 'get', path: '/instrument-channels/{id}/runs', summary: 'Runs read by an instrument channel' },
  { method: 'get', path: '/runs/{id}/conditions', summary: 'Everything held and used in a run' },
  { method: 'get', path: '/studies/{id}/mounts', summary: 'Mounts of a study' },
  { method: 'post', path: '/studies/{id}/mounts', summary: 'Write down a mount', body: MountBody, status: 201 },
  { method: 'delete', path: '/mounts/{id}', summary: 'Take a mount back that no run rests on', status: 204 },
  { method: 'get', path: '/mounts/{id}/seat', summary: 'How a mount warms up, against other mounts of its variant' },
  { method: 'post', path: '/mounts/{id}/photos', summary: 'Attach a photograph (multipart, field "photo")', status: 201 },
  { method: 'get', path: '/mount-photos/{id}', summary: 'A photograph as displayed, WebP' },
  { method: 'delete', path: '/mount-photos/{id}', summary: 'Remove a photograph', status: 204 },
  { method: 'get', path: '/change-overs', summary: 'Minutes that each factor took to change, learnt from worked cards' },
  { method: 'get', path: '/studies/{id}/runs', summary: 'Runs of a study' },
  { method: 'get', path: '/studies/{id}/settled-loads', summary: 'How long loads of like parts took to settle, seconds' },
  { method: 'post', path: '/studies/{id}/runs', summary: 'Start a run on a free rig', body: StartRunBody, status: 201 },
  { method: 'post', path: '/studies/{id}/logs', summary: 'Stage a recorded log (multipart, field "log")', status: 201 },
  { method: 'post', path: '/studies/{id}/logs/{logId}/run', summary: 'Make a run of a staged log', body: ImportRunBody, status: 201 },
  {
    method: 'post',
    path: '/studies/{id}/logs/{logId}/align',
    summary: 'How far the clock of a staged log is off a run',
    body: AlignLogBody,
  },
  { method: 'post', path: '/studies/{id}/logs/{logId}/join', summary: 'Add a staged log to a run', body: JoinLogBody },
  { method: 'get', path: '/import-jobs/{job}', summary: 'How far an import has come; give its id as query job where it is started' },
  { method: 'delete', path: '/import-jobs/{job}', summary: 'Cancel an import', status: 204 },
  { method: 'get', path: '/runs/{id}', summary: 'A run with its phases and events' },
  { method: 'post', path: '/runs/{id}/stop', summary: 'Remove the load and end the run', body: StopRunBody },
  { method: 'post', path: '/runs/{id}/events', summary: 'Mark something that happened', body: MarkBody, status: 201 },
  { method: 'post', path: '/studies/{id}/preflight', summary: 'Look at the bench before a run', body: PreflightBody, status: 201 },
  { method: 'post', path: '/runs/{id}/interventions', summary: 'Change something: opens a phase', body: InterventionBody, status: 201 },
  { method: 'post', path: '/runs/{id}/pause', summary: 'Take the load off; the phase is then done again' },
  { method: 'post', path: '/runs/{id}/go-on', summary: 'End the present phase, or a pause' },
  { method: 'post', path: '/runs/{id}/more-time', summary: 'Make the present phase longer', body: MoreTimeBody },
  { method: 'post', path: '/runs/{id}/hand-readings', summary: 'Write down what was read by hand', body: HandReadingsBody, status: 201 },
  { method: 'delete', path: '/runs/{id}/hand-readings/{reading}', summary: 'Take a hand reading back' },
  { method: 'put', path: '/runs/{id}/sign-off', summary: 'Say whether a run is used', body: SignOffBody },
  { method: 'get', path: '/runs/{id}/samples.csv', summary: 'Every sample as it was read; query from, to (s)' },
  { method: 'get', path: '/runs/{id}/trace', summary: 'Traces for drawing; query from, to (s), points' },
  { method: 'get', path: '/runs/{id}/readings', summary: 'Everything read off a run' },
  { method: 'get', path: '/runs/{id}/live', summary: 'Server-sent events: run, snapshot, samples' },
  {
    method: 'get',
    path: '/studies/{id}/verdict',
    summary:
      'One side against another; query a and b (a variant, run:ID, level:FACTOR=LEVEL, or study:STUDY:VARIANT of another study), load, restate (power:W:EXPONENT or noise:DB), signedOff',
  },
  { method: 'get', path: '/studies/{id}/field', summary: 'All variants side by side; query load, loadsOf, restate, signedOff' },
  { method: 'put', path: '/runs/{id}/windows/{phase}', summary: 'Read a phase over a window of your own', body: ChosenWindowBody },
  { method: 'delete', path: '/runs/{id}/windows/{phase}', summary: 'Read a phase over its last minutes again' },
  { method: 'get', path: '/studies/{id}/report.html', summary: 'Self-contained report' },
  { method: 'get', path: '/studies/{id}/readings.csv', summary: 'Readings as CSV' },
  { method: 'get', path: '/rigs', summary: 'Rigs that have connected' },
];

/** The OpenAPI document, made from the contract classes. */
export function openApiDocument(): object {
  // The schema maker must see the same metadata storage as the contract's decorators.
  const { defaultMetadataStorage } = createRequire(import.meta.url)('class-transformer/cjs/storage') as { defaultMetadataStorage: never };
  const schemas = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    classTransformerMetadataStorage: defaultMetadataStorage,
  });
  const paths: Record<string, Record<string, object>> = {};
  for (const { method, path, summary, body, status = 200 } of OPERATIONS) {
    const names = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]!);
    (paths[path] ??= {})[method] = {
      summary,
      parameters: names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
      ...(body
        ? { requestBody: { required: true, content: { 'application/json': { schema: { $ref: `#/components/schemas/${body.name}` } } } } }
        : {}),
      responses: {
        [status]: { description: 'Done' },
        default: { description: 'Problem details, RFC 9457', content: { 'application/problem+json': {} } },
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Red Ember', version: '1' }, servers: [{ url: '/api/v1' }], paths, components: { schemas } };
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
