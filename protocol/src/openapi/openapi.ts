import { RELEASE } from '../release.js';
import * as schemas from '../schemas/index.js';
import { accessPaths } from './access.js';
import { draftsPaths } from './drafts.js';
import { gatheringsPaths } from './gatherings.js';
import { pastPaths } from './past.js';
import { seatsPaths } from './seats.js';
import { sheetsPaths } from './sheets.js';
import { tablesPaths } from './tables.js';
import { trialsPaths } from './trials.js';

/** The service's interface, as OpenAPI 3.1. */
export const openapi = {
  openapi: '3.1.0',
  info: {
    title: 'Wily Jester',
    version: RELEASE,
    description:
      'Tables for card games whose rules are written in Motley. Every error is a problem (RFC 9457). A live table also speaks over the WebSocket /api/tables/{table}/live.',
    license: { name: 'MIT', identifier: 'MIT' },
  },
  servers: [{ url: '/' }],
  components: {
    securitySchemes: { key: { type: 'http', scheme: 'bearer', description: 'A developer, host, seat or watch key' } },
    schemas: {
      Problem: schemas.problemSchema,
      SheetText: schemas.sheetTextSchema,
      Check: schemas.checkSchema,
      SheetList: schemas.sheetListSchema,
      Sheet: schemas.sheetSchema,
      SettingsWish: schemas.settingsWishSchema,
      Settings: schemas.settingsSchema,
      Plan: schemas.planSchema,
      OpenTable: schemas.openTableSchema,
      Opened: schemas.openedSchema,
      TableSummary: schemas.tableSummarySchema,
      TableList: schemas.tableListSchema,
      View: schemas.viewSchema,
      Choice: schemas.choiceSchema,
      Chosen: schemas.chosenSchema,
      Offers: schemas.offersSchema,
      Hint: schemas.hintSchema,
      Analysis: schemas.analysisSchema,
      Gather: schemas.gatherSchema,
      Gathering: schemas.gatheringSchema,
      Gathered: schemas.gatheredSchema,
      SeatPart: schemas.seatPartSchema,
      Steps: schemas.stepsSchema,
      BotSeat: schemas.botSeatSchema,
      NewKey: schemas.newKeySchema,
      MadeKey: schemas.madeKeySchema,
      Past: schemas.pastSchema,
      Branch: schemas.branchSchema,
      RecordFile: schemas.recordFileSchema,
      RecordHeader: schemas.recordHeaderSchema,
      RecordRow: schemas.recordRowSchema,
      Health: schemas.healthSchema,
      Session: schemas.sessionSchema,
      NewDeveloper: schemas.newDeveloperSchema,
      AddedDeveloper: schemas.addedDeveloperSchema,
      DeveloperList: schemas.developerListSchema,
      Login: schemas.loginSchema,
      LoginWish: schemas.loginWishSchema,
      ComeIn: schemas.comeInSchema,
      Looks: schemas.looksSchema,
      FairLine: schemas.fairLineSchema,
      NewTrial: schemas.newTrialSchema,
      TrialSummary: schemas.trialSummarySchema,
      TrialList: schemas.trialListSchema,
      Trial: schemas.trialSchema,
      DraftTexts: schemas.draftTextsSchema,
      NewDraft: schemas.newDraftSchema,
      KeepDraft: schemas.keepDraftSchema,
      DraftSummary: schemas.draftSummarySchema,
      Draft: schemas.draftSchema,
      DraftList: schemas.draftListSchema,
      EditionList: schemas.editionListSchema,
      Edition: schemas.editionSchema,
      ShelfWish: schemas.shelfWishSchema,
      Shelved: schemas.shelvedSchema,
      ServerMessage: schemas.serverMessageSchema,
      ClientMessage: schemas.clientMessageSchema,
    },
  },
  paths: {
    ...accessPaths,
    ...sheetsPaths,
    ...tablesPaths,
    ...pastPaths,
    ...seatsPaths,
    ...gatheringsPaths,
    ...trialsPaths,
    ...draftsPaths,
  },
} as const;
