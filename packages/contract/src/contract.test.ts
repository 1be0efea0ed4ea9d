import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import {
  AuthInput,
  DeliveryFilterInput,
  DraftInput,
  FeedInput,
  FileAccessInput,
  FormInput,
  IntakeInput,
  PaceInput,
  PatienceInput,
  PinsInput,
  QuestionInput,
  ResendInput,
  RetryInput,
  RouteInput,
  SelectionInput,
  SendInput,
  SendRecordedInput,
  SetupInput,
  TargetInput,
  TermsInput,
  VerificationInput,
} from '.';

/** The paths of fields that are refused. */
function refused(type: new () => object, body: object): string[] {
  const flat = (fault: ValidationError, above = ''): string[] => {
    const at = above ? `${above}.${fault.property}` : fault.property;
    return [...(fault.constraints ? [at] : []), ...(fault.children ?? []).flatMap(child => flat(child, at))];
  };
  const options = { whitelist: true, forbidUnknownValues: false };
  return validateSync(plainToInstance(type, body), options).flatMap(fault => flat(fault));
}

const definition = (more: object = {}) => ({
  format: 1,
  name: 'R',
  condition: { all: [] },
  calls: [{ id: 'a', targetId: 't', operationId: 'o', lines: [] }],
  terms: { hours: 24, timeZone: 'Europe/London' },
  ...more,
});
const draft = (more: object = {}, revision: unknown = 0) => ({ definition: definition(more), revision });
const withCall = (more: object) => draft({ calls: [{ id: 'a', targetId: 't', operationId: 'o', lines: [], ...more }] });
const line = (more: object) =>
  withCall({
    lines: [{ id: 'l', to: 'x', source: null, cleaning: [], whenBlank: 'leaveOut', whenProblem: 'stop', ...more }],
  });
const LINE = 'definition.calls.0.lines.0';
const target = (more: object = {}) => ({
  name: 'T',
  baseUrl: 'https://t.example.org',
  reads: 'tables',
  discoveryPath: '/t',
  ...more,
});

// What a class takes, and what it refuses: by the name of the field, so that it can be said beside it.
test.each<[string, new () => object, object, string[]]>([
  ['an owner', SetupInput, { name: 'Rowan', password: 'ten letters', token: 'x' }, []],
  ['a short password', SetupInput, { name: 'Rowan', password: 'short', token: 'x' }, ['password']],
  ['an intake', IntakeInput, { name: 'I' }, []],
  ['an intake without a name', IntakeInput, { name: '' }, ['name']],
  ['a limit that is too small', IntakeInput, { name: 'I', sizeLimit: 5 }, ['sizeLimit']],
  ['a limit of nothing, which is not left out', IntakeInput, { name: 'I', sizeLimit: null }, ['sizeLimit']],
  ['an address range', IntakeInput, { name: 'I', allowedAddresses: ['192.0.2.0/24', '2001:db8::/32', '::1'] }, []],
  ['what is no address range', IntakeInput, { name: 'I', allowedAddresses: ['192.0.2.0/64'] }, ['allowedAddresses']],
  [
    'an origin with a path',
    IntakeInput,
    { name: 'I', allowedOrigins: ['https://a.example.org/x'] },
    ['allowedOrigins'],
  ],
  ['keeping for ever', IntakeInput, { name: 'I', keepDays: null }, []],
  ['keeping for no days', IntakeInput, { name: 'I', keepDays: 0 }, ['keepDays']],
  ['a form with too long a name', FormInput, { name: 'x'.repeat(121) }, ['name']],
  ['a form with its own name again', FormInput, { name: '' }, []],
  ['a question with a name', QuestionInput, { key: 'pt-1', name: 'Water temperature' }, []],
  ['a name for no question', QuestionInput, { key: '', name: 'Water temperature' }, ['key']],
  ['a form as it is', FormInput, {}, []],
  ['a feed', FeedInput, { url: 'https://a.example.org/rows' }, []],
  [
    'a feed on a schedule of four fields',
    FeedInput,
    { url: 'https://a.example.org/rows', every: '* * * *' },
    ['every'],
  ],
  ['a feed from a file', FeedInput, { url: 'file:///etc/passwd' }, ['url']],
  ['a header’s name with a line break', FeedInput, { url: 'https://a.example.org', name: 'x\r\ny' }, ['name']],
  ['a pointer without its slash', FeedInput, { url: 'https://a.example.org', cursorAt: 'next' }, ['cursorAt']],
  ['a signature by an algorithm of no name', VerificationInput, { kind: 'hmac', algorithm: 'md5' }, ['algorithm']],
  ['three secrets', VerificationInput, { kind: 'header', secrets: ['a', 'b', 'c'] }, ['secrets']],
  ['a message with a line break in its type', SendInput, { contentType: 'a\nb' }, ['contentType']],
  ['credentials for files of an address', FileAccessInput, { host: 'https://f.example.org', kind: 'bearer' }, ['host']],
  ['basic credentials with a colon in the name', AuthInput, { kind: 'basic', user: 'a:b' }, ['user']],
  ['a key in a header', AuthInput, { kind: 'header', name: 'X-Key' }, []],
  ['a key in no header', AuthInput, { kind: 'header', name: '' }, ['name']],
  ['OAuth without its address', AuthInput, { kind: 'oauth', clientId: 'c' }, ['tokenUrl']],
  ['a target', TargetInput, target(), []],
  ['a target by mail', TargetInput, target({ baseUrl: 'smtp://m.example.org:587', reads: 'mail' }), []],
  ['a target of no scheme', TargetInput, target({ baseUrl: 't.example.org' }), ['baseUrl']],
  ['a path that begins in the middle', TargetInput, target({ discoveryPath: 'tables' }), ['discoveryPath']],
  ['a secret with a line break', TargetInput, target({ token: 'a\nb' }), ['token']],
  ['a pace', PaceInput, { concurrency: 1, perSecond: 0.5, parkAfter: 0 }, []],
  ['as fast as it goes', PaceInput, { concurrency: 8, perSecond: null, parkAfter: 5 }, []],
  [
    'a pace of nothing',
    PaceInput,
    { concurrency: 0, perSecond: 0, parkAfter: -1 },
    ['concurrency', 'perSecond', 'parkAfter'],
  ],
  [
    'a pace that is no number',
    PaceInput,
    { concurrency: '8', perSecond: Number.NaN, parkAfter: 1.5 },
    ['concurrency', 'perSecond', 'parkAfter'],
  ],
  ['patience without an end', PatienceInput, { connect: 1, firstByte: 1, whole: 99_999 }, ['whole']],
  ['a route without its form', RouteInput, { name: 'R', formId: 1, targetId: 't', operationId: 'o' }, ['formId']],
  ['a draft', DraftInput, draft(), []],
  ['a draft of another format', DraftInput, draft({ format: 2 }), ['definition.format']],
  ['a draft without its definition', DraftInput, { definition: null, revision: 0 }, ['definition']],
  ['a revision that is none', DraftInput, draft({}, '0'), ['revision']],
  ['a route of no calls', DraftInput, draft({ calls: [] }), ['definition.calls']],
  ['a call’s name that would end a reference', DraftInput, withCall({ id: 'a/b' }), ['definition.calls.0.id']],
  ['a condition that is none', DraftInput, draft({ condition: { some: [] } }), ['definition.condition']],
  ['a source of no kind', DraftInput, line({ source: { from: 'thin air' } }), [`${LINE}.source`]],
  [
    'a text with a part of two kinds',
    DraftInput,
    line({ source: { from: 'text', segments: [{ text: 'a', field: 'b' }] } }),
    [`${LINE}.source`],
  ],
  ['a policy of no name', DraftInput, line({ whenBlank: 'guess' }), [`${LINE}.whenBlank`]],
  [
    'a step without parameters',
    DraftInput,
    line({ cleaning: [{ id: 'text.trim', params: null }] }),
    [`${LINE}.cleaning.0.params`],
  ],
  [
    'forty-one steps',
    DraftInput,
    line({ cleaning: Array.from({ length: 41 }, () => ({ id: 'text.trim', params: {} })) }),
    [`${LINE}.cleaning`],
  ],
  ['hours that never end', TermsInput, { hours: Infinity, timeZone: 'UTC' }, ['hours']],
  ['a zone that is none', TermsInput, { hours: 1, timeZone: 'Basin/Alder' }, ['timeZone']],
  ['trying again after a success', RetryInput, { tries: 3, statuses: [200] }, ['statuses']],
  ['trying no times', RetryInput, { tries: 0, statuses: [] }, ['tries']],
  ['trying as often as there is time', RetryInput, { tries: null, statuses: [503] }, []],
  ['all that are alike', ResendInput, { ids: [], filter: { state: 'dead' }, mapping: 'now' }, []],
  ['all that wait', DeliveryFilterInput, { state: 'waiting' }, ['state']],
  ['more than are sent again one by one', ResendInput, { ids: Array.from({ length: 1001 }, () => 'x') }, ['ids']],
  ['everything that is recorded', SelectionInput, {}, []],
  ['since a day that is none', SelectionInput, { since: '2026-02-30' }, ['since']],
  ['a search that is nothing', SelectionInput, { search: null }, ['search']],
  ['insisting in words', SendRecordedInput, { selection: {}, again: 'yes' }, ['again']],
])('%s', (_, type, body, fields) => {
  expect(refused(type, body)).toEqual(fields);
});

// What may be left out is not the same as null: null would be stored, and a route or an intake would run with it.
test.each<[string, new () => object, object, string[]]>([
  [
    'an intake',
    IntakeInput,
    { name: 'I' },
    ['sizeLimit', 'state', 'reply', 'replyText', 'allowedAddresses', 'allowedOrigins', 'sameWithin'],
  ],
  ['a target', TargetInput, target(), ['auth', 'token', 'tryToken']],
  ['a feed', FeedInput, { url: 'https://a.example.org/rows' }, ['secret', 'url', 'on', 'every', 'auth', 'paging']],
  ['access to files', FileAccessInput, { host: 'a.example.org' }, ['name', 'secret']],
  [
    'a rule',
    VerificationInput,
    { kind: 'hmac', name: 'X' },
    ['algorithm', 'encoding', 'prefix', 'signed', 'timestampHeader', 'idHeader', 'tolerance', 'secrets'],
  ],
  [
    'pins',
    PinsInput,
    {},
    ['split', 'answers', 'label', 'value', 'key', 'form', 'id', 'time', 'files', 'media', 'text', 'others'],
  ],
  ['a form', FormInput, {}, ['state', 'name']],
])('null is not taken for what is left out of %s', (_, type, body, fields) => {
  for (const field of fields) expect([field, refused(type, { ...body, [field]: null })]).toEqual([field, [field]]);
});
