import { DataTypes, type Model, type ModelAttributes, type ModelStatic, type Sequelize } from "sequelize";

import type * as rows from "./rows";

type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>> & Row>;

/** One Sequelize model per table. Indexes, keys and defaults are the migrations' business. */
export interface Models {
  Person: Table<rows.PersonRow>;
  Authorisation: Table<rows.AuthorisationRow>;
  Session: Table<rows.SessionRow>;
  Audit: Table<rows.AuditRow>;
  Customer: Table<rows.CustomerRow>;
  Site: Table<rows.SiteRow>;
  Machine: Table<rows.MachineRow>;
  Procedure: Table<rows.ProcedureRow>;
  Plan: Table<rows.PlanRow>;
  Run: Table<rows.RunRow>;
  RunEvent: Table<rows.RunEventRow>;
  Completion: Table<rows.CompletionRow>;
  MeterReading: Table<rows.MeterReadingRow>;
  Reading: Table<rows.ReadingRow>;
  MachineEvent: Table<rows.MachineEventRow>;
  Import: Table<rows.ImportRow>;
  SiteClosure: Table<rows.SiteClosureRow>;
  Pause: Table<rows.PauseRow>;
  MachineMeter: Table<rows.MachineMeterRow>;
  ParkedReading: Table<rows.ParkedReadingRow>;
  Link: Table<rows.LinkRow>;
  OperatorTick: Table<rows.OperatorTickRow>;
  Photo: Table<rows.PhotoRow>;
  ProblemReport: Table<rows.ProblemReportRow>;
  SavedView: Table<rows.SavedViewRow>;
  ProcedureDraft: Table<rows.ProcedureDraftRow>;
  MachineHold: Table<rows.MachineHoldRow>;
  Instrument: Table<rows.InstrumentRow>;
  MachineSlot: Table<rows.MachineSlotRow>;
  RecordChain: Table<rows.RecordChainRow>;
}

const { BOOLEAN, DATE, DATEONLY, DOUBLE, INTEGER, JSON, STRING, TEXT } = DataTypes;
const id = { type: DataTypes.CHAR(36), primaryKey: true } as const;

export function defineModels(sequelize: Sequelize): Models {
  const table = <Row extends object>(tableName: string, attributes: Record<keyof Row, unknown>): Table<Row> =>
    sequelize.define(tableName, attributes as ModelAttributes, { tableName }) as unknown as Table<Row>;
  return {
    Person: table<rows.PersonRow>("persons", {
      id,
      name: STRING,
      signIn: STRING,
      passwordHash: STRING,
      role: STRING,
      active: BOOLEAN,
      mustChangePassword: BOOLEAN,
      demo: BOOLEAN,
      createdAt: DATE(3),
    }),
    Authorisation: table<rows.AuthorisationRow>("authorisations", {
      id,
      personId: STRING,
      kind: STRING,
      expiresOn: DATEONLY,
      grantedBy: STRING,
      grantedAt: DATE(3),
      revokedBy: STRING,
      revokedAt: DATE(3),
    }),
    Session: table<rows.SessionRow>("sessions", {
      id: { type: DataTypes.CHAR(64), primaryKey: true },
      personId: STRING,
      device: STRING,
      createdAt: DATE(3),
      lastSeenAt: DATE(3),
      expiresAt: DATE(3),
      endedAt: DATE(3),
    }),
    Audit: table<rows.AuditRow>("audit_log", {
      id,
      at: DATE(3),
      byPerson: STRING,
      subject: STRING,
      subjectId: STRING,
      action: STRING,
      details: JSON,
    }),
    Customer: table<rows.CustomerRow>("customers", { id, name: STRING }),
    Site: table<rows.SiteRow>("sites", {
      id,
      customerId: STRING,
      name: STRING,
      address: STRING,
      timeZone: STRING,
      waterHardness: DOUBLE,
      accessHours: STRING,
      notes: TEXT,
      latitude: DOUBLE,
      longitude: DOUBLE,
      drainRules: TEXT,
      wasteRules: TEXT,
      contacts: JSON,
      holidayRegion: STRING,
      sharedPlaces: JSON,
    }),
    Machine: table<rows.MachineRow>("machines", {
      id,
      tag: STRING,
      siteId: STRING,
      area: STRING,
      name: STRING,
      family: STRING,
      maker: STRING,
      model: STRING,
      serial: STRING,
      commissionedOn: DATEONLY,
      dutiesFrom: DATEONLY,
      options: JSON,
      notes: TEXT,
      createdAt: DATE(3),
      position: STRING,
      documents: JSON,
      photoId: STRING,
      freeHours: STRING,
      readyBy: STRING,
    }),
    Procedure: table<rows.ProcedureRow>("procedures", {
      id: { type: STRING, primaryKey: true },
      version: { type: INTEGER, primaryKey: true },
      family: STRING,
      title: STRING,
      body: JSON,
      expanded: JSON,
      createdAt: DATE(3),
      publishedBy: STRING,
      why: STRING,
    }),
    ProcedureDraft: table<rows.ProcedureDraftRow>("procedure_drafts", {
      id,
      procedureId: STRING,
      baseVersion: INTEGER,
      body: JSON,
      byPerson: STRING,
      madeAt: DATE(3),
      changedAt: DATE(3),
      revision: INTEGER,
    }),
    MachineHold: table<rows.MachineHoldRow>("machine_holds", {
      id,
      machineId: STRING,
      reason: STRING,
      runId: STRING,
      eventId: STRING,
      byPerson: STRING,
      since: DATE(3),
      clearedBy: STRING,
      clearedAt: DATE(3),
      clearedNote: STRING,
    }),
    Instrument: table<rows.InstrumentRow>("instruments", {
      id,
      code: STRING,
      kind: STRING,
      name: STRING,
      calibrationDue: DATEONLY,
      certificate: STRING,
      retiredAt: DATE(3),
    }),
    MachineSlot: table<rows.MachineSlotRow>("machine_slots", {
      machineId: { type: DataTypes.CHAR(36), primaryKey: true },
      slot: { type: STRING, primaryKey: true },
      item: STRING,
      usesLeft: INTEGER,
      lot: STRING,
      fittedAt: DATE(3),
      changedAt: DATE(3),
      runId: STRING,
      meters: JSON,
    }),
    RecordChain: table<rows.RecordChainRow>("record_chain", {
      seq: { type: DataTypes.BIGINT, primaryKey: true },
      kind: STRING,
      subjectId: STRING,
      at: DATE(3),
      content: JSON,
      contentHash: STRING,
      previousHash: STRING,
      hash: STRING,
    }),
    Plan: table<rows.PlanRow>("plans", {
      id,
      machineId: STRING,
      procedureId: STRING,
      title: STRING,
      who: STRING,
      authorisation: STRING,
      minutes: INTEGER,
      startOn: DATEONLY,
      rules: JSON,
      hardStop: BOOLEAN,
      active: BOOLEAN,
      dueOn: DATEONLY,
      warningFrom: DATEONLY,
      noticeFrom: DATEONLY,
      projected: BOOLEAN,
      firmDueOn: DATEONLY,
      anchorOn: DATEONLY,
      rivals: JSON,
      siteId: STRING,
      family: STRING,
      plannedOn: DATEONLY,
      pinned: BOOLEAN,
      plannedFor: STRING,
      sequence: INTEGER,
      assessedAt: DATE(3),
    }),
    Run: table<rows.RunRow>("runs", {
      id,
      planId: STRING,
      machineId: STRING,
      procedureId: STRING,
      procedureVersion: INTEGER,
      openedBy: STRING,
      openedAt: DATE(3),
      heldBy: STRING,
      status: STRING,
      closedAt: DATE(3),
      closedBy: STRING,
      doneOn: DATEONLY,
      outcome: STRING,
      outcomeReason: STRING,
    }),
    RunEvent: table<rows.RunEventRow>("run_events", {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      id: STRING,
      runId: STRING,
      byPerson: STRING,
      type: STRING,
      body: JSON,
      contentHash: STRING,
      receivedAt: DATE(3),
    }),
    Completion: table<rows.CompletionRow>("completions", {
      id,
      planId: STRING,
      machineId: STRING,
      doneOn: DATEONLY,
      meters: JSON,
      runId: STRING,
    }),
    MeterReading: table<rows.MeterReadingRow>("meter_readings", {
      id,
      machineId: STRING,
      meter: STRING,
      value: DOUBLE,
      readOn: DATEONLY,
      readAt: DATE(3),
      byPerson: STRING,
      source: STRING,
      runId: STRING,
      replaced: BOOLEAN,
      note: STRING,
      externalId: STRING,
    }),
    Reading: table<rows.ReadingRow>("readings", {
      id,
      machineId: STRING,
      reading: STRING,
      value: DOUBLE,
      unit: STRING,
      readOn: DATEONLY,
      readAt: DATE(3),
      byPerson: STRING,
      runId: STRING,
    }),
    MachineEvent: table<rows.MachineEventRow>("machine_events", {
      id,
      machineId: STRING,
      event: STRING,
      happensOn: DATEONLY,
      note: STRING,
      byPerson: STRING,
      loggedAt: DATE(3),
    }),
    Import: table<rows.ImportRow>("imports", {
      id,
      byPerson: STRING,
      fileName: STRING,
      content: TEXT("long"),
      createdAt: DATE(3),
      status: STRING,
      startedAt: DATE(3),
      goodRows: INTEGER,
      faults: JSON,
      rowsDone: INTEGER,
      message: STRING,
    }),
    SiteClosure: table<rows.SiteClosureRow>("site_closures", {
      id,
      siteId: STRING,
      fromOn: DATEONLY,
      toOn: DATEONLY,
      reason: STRING,
      byPerson: STRING,
      loggedAt: DATE(3),
      cancelledBy: STRING,
      cancelledAt: DATE(3),
    }),
    Pause: table<rows.PauseRow>("pauses", {
      id,
      machineId: STRING,
      planId: STRING,
      fromOn: DATEONLY,
      toOn: DATEONLY,
      reason: STRING,
      byPerson: STRING,
      loggedAt: DATE(3),
      resumedBy: STRING,
      resumedAt: DATE(3),
    }),
    MachineMeter: table<rows.MachineMeterRow>("machine_meters", {
      machineId: { type: DataTypes.CHAR(36), primaryKey: true },
      meter: { type: STRING, primaryKey: true },
      name: STRING,
      unit: STRING,
      basis: STRING,
      gatewayRef: STRING,
    }),
    ParkedReading: table<rows.ParkedReadingRow>("parked_readings", {
      id,
      externalId: STRING,
      gatewayRef: STRING,
      payload: JSON,
      reason: STRING,
      parkedAt: DATE(3),
      settledBy: STRING,
      settledAt: DATE(3),
      settledAs: STRING,
    }),
    Link: table<rows.LinkRow>("links", {
      id,
      kind: STRING,
      subjectId: STRING,
      tokenHash: STRING,
      madeBy: STRING,
      madeAt: DATE(3),
      revokedBy: STRING,
      revokedAt: DATE(3),
    }),
    OperatorTick: table<rows.OperatorTickRow>("operator_ticks", {
      id,
      linkId: STRING,
      machineId: STRING,
      planId: STRING,
      doneOn: DATEONLY,
      name: STRING,
      loggedAt: DATE(3),
    }),
    Photo: table<rows.PhotoRow>("photos", {
      id,
      mime: STRING,
      bytes: DataTypes.BLOB("medium"),
      width: INTEGER,
      height: INTEGER,
      madeAt: DATE(3),
    }),
    ProblemReport: table<rows.ProblemReportRow>("problem_reports", {
      id,
      machineId: STRING,
      linkId: STRING,
      name: STRING,
      text: STRING,
      stopped: BOOLEAN,
      photoId: STRING,
      loggedAt: DATE(3),
      closedBy: STRING,
      closedAt: DATE(3),
      closedNote: STRING,
    }),
    SavedView: table<rows.SavedViewRow>("saved_views", {
      id,
      personId: STRING,
      place: STRING,
      name: STRING,
      query: STRING,
      madeAt: DATE(3),
    }),
  };
}
