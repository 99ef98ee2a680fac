import type { ModelAttributes, Order, Sequelize, Transaction, WhereOptions } from "sequelize";

import type { Columns, NewRowOf, RowOf } from "./columns";
import * as days from "./tables/days";
import * as duties from "./tables/duties";
import * as faults from "./tables/faults";
import * as jobs from "./tables/jobs";
import * as messages from "./tables/messages";
import * as outside from "./tables/outside";
import * as people from "./tables/people";
import * as register from "./tables/register";
import * as sheets from "./tables/sheets";
import * as stores from "./tables/stores";
import * as wear from "./tables/wear";
import { withTurns } from "./turns";

/** Every table, by the name of its model. */
export const TABLES = {
  Person: people.persons,
  Authorisation: people.authorisations,
  Session: people.sessions,
  RateLimit: people.rateLimits,
  Audit: people.auditLog,
  Submission: people.submissions,
  Customer: register.customers,
  Site: register.sites,
  SiteClosure: register.siteClosures,
  Machine: register.machines,
  MachineMeter: register.machineMeters,
  MeterReading: register.meterReadings,
  Reading: register.readings,
  Occurrence: register.occurrences,
  MachineHold: register.machineHolds,
  MachineSlot: register.machineSlots,
  Instrument: register.instruments,
  Photo: register.photos,
  Import: register.imports,
  ProblemReport: register.problemReports,
  Procedure: duties.procedures,
  ProcedureDraft: duties.procedureDrafts,
  FaultGuide: faults.faultGuides,
  FaultOutcome: faults.faultOutcomes,
  FaultGuideDraft: faults.faultGuideDrafts,
  FaultCode: faults.faultCodes,
  PracticeRun: faults.practiceRuns,
  AuthorisationPractice: faults.authorisationPractices,
  Duty: duties.duties,
  Completion: duties.completions,
  Pause: duties.pauses,
  OpenItem: duties.openItems,
  SlotFit: wear.slotFits,
  WearValue: wear.wearValues,
  WearLine: wear.wearLines,
  AsFound: wear.asFound,
  IntervalProposal: wear.intervalProposals,
  Sheet: sheets.sheets,
  LogEntry: sheets.logEntries,
  SheetMinutes: sheets.sheetMinutes,
  RecordSummary: sheets.records,
  RecordLink: sheets.recordLinks,
  Job: jobs.jobs,
  JobPiece: jobs.jobPieces,
  Workload: jobs.workloads,
  RecordChain: sheets.recordChain,
  RecordChainEnd: sheets.recordChainEnd,
  Depot: days.depots,
  Day: days.days,
  DayEvent: days.dayEvents,
  TravelMinutes: days.travelMinutes,
  SavedView: days.savedViews,
  Supplier: stores.suppliers,
  Item: stores.items,
  Place: stores.places,
  Lot: stores.lots,
  StockMove: stores.stockMoves,
  Stock: stores.stock,
  StockLot: stores.stockLots,
  StockOutlook: stores.stockOutlook,
  Reservation: stores.reservations,
  Kit: stores.kits,
  KitItem: stores.kitItems,
  LoadTick: stores.loadTicks,
  Order: stores.orders,
  OrderLine: stores.orderLines,
  CostMonth: stores.costMonths,
  Setting: stores.settings,
  Link: outside.links,
  OperatorTick: outside.operatorTicks,
  Gateway: outside.gateways,
  Lease: outside.leases,
  Turn: outside.turns,
  ParkedReading: outside.parkedReadings,
  Message: messages.messages,
  MessageFile: messages.messageFiles,
  CustomerRequest: messages.customerRequests,
} as const;

type Tables = typeof TABLES;

interface ReadOptions<Row> {
  where?: WhereOptions<Row>;
  order?: Order;
  limit?: number;
  /** Locks the rows read until the transaction ends. */
  lock?: Transaction["LOCK"][keyof Transaction["LOCK"]];
  transaction?: Transaction | null | undefined;
  /** Rows come as plain objects, which is all that anybody here works with. */
  raw: true;
}
interface WriteOptions {
  transaction?: Transaction | null | undefined;
}

/**
 * What we use of a Sequelize model, with types that tell the truth: rows have the columns that were asked for, new rows need
 * what the database has no default for.
 */
export interface ModelOf<Row, New> {
  findAll<Name extends keyof Row & string>(
    options: ReadOptions<Row> & { attributes: Name[] },
  ): Promise<Pick<Row, Name>[]>;
  findAll(options: ReadOptions<Row>): Promise<Row[]>;
  findOne<Name extends keyof Row & string>(
    options: ReadOptions<Row> & { attributes: Name[] },
  ): Promise<Pick<Row, Name> | null>;
  findOne(options: ReadOptions<Row>): Promise<Row | null>;
  findByPk<Name extends keyof Row & string>(
    key: string,
    options: ReadOptions<Row> & { attributes: Name[] },
  ): Promise<Pick<Row, Name> | null>;
  findByPk(key: string, options: ReadOptions<Row>): Promise<Row | null>;
  count(options?: { where?: WhereOptions<Row>; transaction?: Transaction | null | undefined }): Promise<number>;
  create(row: New, options?: WriteOptions): Promise<unknown>;
  bulkCreate(
    rows: readonly New[],
    options?: WriteOptions & { ignoreDuplicates?: boolean; updateOnDuplicate?: (keyof Row & string)[] },
  ): Promise<unknown>;
  /** Adds a row or brings the one of its key up to date. */
  upsert(row: New, options?: WriteOptions): Promise<unknown>;
  /** The number of rows that changed. */
  update(
    values: Partial<Row>,
    options: WriteOptions & { where: WhereOptions<Row>; limit?: number },
  ): Promise<[changed: number]>;
  destroy(options: WriteOptions & { where: WhereOptions<Row>; limit?: number }): Promise<number>;
  getTableName(): unknown;
}
export type Models = { [Name in keyof Tables]: ModelOf<RowOf<Tables[Name]>, NewRowOf<Tables[Name]>> };

/** Indexes and foreign keys are the migrations' business. */
export function defineModels(
  sequelize: Sequelize,
  take: (subjects: string[], tx: Transaction) => Promise<void>,
): Models {
  return Object.fromEntries(
    Object.entries(TABLES).map(([name, { name: table, columns }]) => {
      const attributes = attributesOf(columns);
      const keys = Object.entries(attributes).flatMap(([key, one]) =>
        (one as { primaryKey?: boolean }).primaryKey ? [key] : [],
      );
      const model = sequelize.define(name, attributes, { tableName: table });
      return [name, withTurns(model as unknown as Parameters<typeof withTurns>[0], { table, keys, take })];
    }),
  ) as unknown as Models;
}

function attributesOf(columns: Columns): ModelAttributes {
  return Object.fromEntries(Object.entries(columns).map(([name, { options }]) => [name, { ...options }]));
}
