import * as schemas from '@wily-jester/protocol';
import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import { Problem } from './problems.js';

const ajv = new Ajv2020({ allErrors: false, strict: true, allowUnionTypes: true, discriminator: true });

/** Checks what clients send. */
const requests = {
  sheetText: ajv.compile<schemas.SheetText>(schemas.sheetTextSchema),
  settingsWish: ajv.compile<schemas.SettingsWish>(schemas.settingsWishSchema),
  openTable: ajv.compile<schemas.OpenTable>(schemas.openTableSchema),
  choice: ajv.compile<schemas.Choice>(schemas.choiceSchema),
  botSeat: ajv.compile<schemas.BotSeat>(schemas.botSeatSchema),
  newKey: ajv.compile<schemas.NewKey>(schemas.newKeySchema),
  branch: ajv.compile<schemas.BranchWish>(schemas.branchSchema),
  recordFile: ajv.compile<schemas.RecordFile>(schemas.recordFileSchema),
  recordHeader: ajv.compile<schemas.RecordHeader>(schemas.recordHeaderSchema),
  recordRow: ajv.compile<schemas.RecordRow>(schemas.recordRowSchema),
  loginWish: ajv.compile<schemas.LoginWish>(schemas.loginWishSchema),
  newDeveloper: ajv.compile<schemas.NewDeveloper>(schemas.newDeveloperSchema),
  comeIn: ajv.compile<schemas.ComeIn>(schemas.comeInSchema),
  newDraft: ajv.compile<schemas.NewDraft>(schemas.newDraftSchema),
  keepDraft: ajv.compile<schemas.KeepDraft>(schemas.keepDraftSchema),
  shelfWish: ajv.compile<schemas.ShelfWish>(schemas.shelfWishSchema),
  newTrial: ajv.compile<schemas.NewTrial>(schemas.newTrialSchema),
  gather: ajv.compile<schemas.Gather>(schemas.gatherSchema),
  seatPart: ajv.compile<schemas.SeatPart>(schemas.seatPartSchema),
  clientMessage: ajv.compile<schemas.ClientMessage>(schemas.clientMessageSchema),
};
/** Checks what the service answers, where it is asked to. */
const answers = {
  problem: schemas.problemSchema,
  check: schemas.checkSchema,
  sheet: schemas.sheetSchema,
  sheetList: schemas.sheetListSchema,
  settings: schemas.settingsSchema,
  plan: schemas.planSchema,
  tableSummary: schemas.tableSummarySchema,
  tableList: schemas.tableListSchema,
  opened: schemas.openedSchema,
  madeKey: schemas.madeKeySchema,
  past: schemas.pastSchema,
  view: schemas.viewSchema,
  offers: schemas.offersSchema,
  hint: schemas.hintSchema,
  analysis: schemas.analysisSchema,
  gathering: schemas.gatheringSchema,
  gathered: schemas.gatheredSchema,
  chosen: schemas.chosenSchema,
  steps: schemas.stepsSchema,
  health: schemas.healthSchema,
  session: schemas.sessionSchema,
  login: schemas.loginSchema,
  addedDeveloper: schemas.addedDeveloperSchema,
  developerList: schemas.developerListSchema,
  looks: schemas.looksSchema,
  trialSummary: schemas.trialSummarySchema,
  trialList: schemas.trialListSchema,
  trial: schemas.trialSchema,
  draftSummary: schemas.draftSummarySchema,
  draft: schemas.draftSchema,
  draftList: schemas.draftListSchema,
  editionList: schemas.editionListSchema,
  edition: schemas.editionSchema,
  shelved: schemas.shelvedSchema,
  serverMessage: schemas.serverMessageSchema,
};
export type AnswerName = keyof typeof answers;
type Requests = { [K in keyof typeof requests]: (typeof requests)[K] extends ValidateFunction<infer T> ? T : never };

function sentence(error: ErrorObject | undefined): string {
  if (!error) return 'The request does not fit its schema.';
  const where = error.instancePath ? error.instancePath.slice(1).replaceAll('/', '.') : 'the request';
  const { params, keyword } = error as ErrorObject & { params: Record<string, unknown> };
  if (keyword === 'additionalProperties') return `${where} has no "${String(params.additionalProperty)}".`;
  if (keyword === 'discriminator') return `${where} has a "${String(params.tag)}" that is none of those known.`;
  if (keyword === 'required') return `${where} needs "${String(params.missingProperty)}".`;
  if (keyword === 'enum') return `${where} must be one of ${(params.allowedValues as unknown[]).join(', ')}.`;
  return `${where} ${error.message ?? 'does not fit'}.`;
}

/** A request's body, checked. @throws Problem that says what does not fit */
export function checked<K extends keyof Requests>(name: K, body: unknown): Requests[K] {
  const validate = requests[name] as ValidateFunction;
  if (validate(body)) return body as Requests[K];
  throw new Problem('malformed', sentence(validate.errors?.[0]));
}

const compiledAnswers = new Map<AnswerName, ValidateFunction>();

/** Insists that an answer fits its schema. @throws Error, since only the service itself can be at fault */
export function checkAnswer(name: AnswerName, body: unknown): void {
  let validate = compiledAnswers.get(name);
  if (!validate) {
    validate = ajv.compile(answers[name]);
    compiledAnswers.set(name, validate);
  }
  // What is sent is JSON: what JSON leaves out is not part of the answer.
  if (!validate(JSON.parse(JSON.stringify(body))))
    throw new Error(`the answer does not fit "${name}": ${sentence(validate.errors?.[0])}`);
}
