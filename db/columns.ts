import { DataTypes, type ModelAttributeColumnOptions } from "sequelize";

/**
 * Kinds of column. A table is written down once: its rows' types are inferred from it, and a test holds it against the
 * schema that the migrations made.
 *
 * @typeParam Value what a row holds
 * @typeParam Given whether a new row must say it: false when the database has a default
 */
export interface Column<Value, Given extends boolean = true> {
  readonly options: ModelAttributeColumnOptions;
  /** How the schema writes it, whole numbers of any size as `int`. */
  readonly sql: string;
  /** Never there: carry the types. */
  readonly value?: Value;
  readonly given?: Given;
  /** Part of the primary key. */
  key(): Column<Value, Given>;
  /** Numbered by the database. */
  counted(): Column<Value, false>;
  /** May be missing. */
  orNull(): Column<Value | null, false>;
  /** What the database takes when a new row does not say. */
  withDefault(value: Value): Column<Value, false>;
}

function column<Value, Given extends boolean = true>(
  sql: string,
  options: ModelAttributeColumnOptions,
): Column<Value, Given> {
  return {
    options,
    sql,
    key: () => column(sql, { ...options, primaryKey: true }),
    counted: () => column(sql, { ...options, autoIncrement: true }),
    orNull: () => column(sql, { ...options, allowNull: true }),
    withDefault: (value) => column(sql, { ...options, defaultValue: value }),
  };
}

const required = { allowNull: false } as const;

/** UUID in small letters, kept as plain bytes. */
export const uuid = () => column<string>("char(36)", { ...required, type: DataTypes.CHAR(36) });
export const fixedText = (length: number) =>
  column<string>(`char(${length})`, { ...required, type: DataTypes.CHAR(length) });
/** Text up to a number of characters; of a closed list of words, its type names them. */
export const text = <Words extends string = string>(length: number) =>
  column<Words>(`varchar(${length})`, { ...required, type: DataTypes.STRING(length) });
export const longText = () => column<string>("text", { ...required, type: DataTypes.TEXT });
export const flag = () => column<boolean>("tinyint(1)", { ...required, type: DataTypes.BOOLEAN });
export const whole = () => column<number>("int", { ...required, type: DataTypes.INTEGER });
/** A number of the database's counting, below 2^53. */
export const bigWhole = () => column<number>("bigint", { ...required, type: DataTypes.BIGINT });
export const real = () => column<number>("double", { ...required, type: DataTypes.DOUBLE });
/** A quantity or an amount with a fixed number of decimals; read as a number, as the core counts with it. */
export const decimal = (digits: number, decimals: number) =>
  column<number>(`decimal(${digits},${decimals})`, { ...required, type: DataTypes.DECIMAL(digits, decimals) });
/** A calendar day, 'YYYY-MM-DD'. */
export const day = () => column<string>("date", { ...required, type: DataTypes.DATEONLY });
/** An instant in UTC, to the millisecond. */
export const instant = () => column<Date>("datetime(3)", { ...required, type: DataTypes.DATE(3) });
export const json = <Value>() => column<Value>("json", { ...required, type: DataTypes.JSON });
export const bytes = () => column<Buffer>("mediumblob", { ...required, type: DataTypes.BLOB("medium") });

export type Columns = Record<string, Column<unknown, boolean>>;

/** What a row holds. */
export type RowOf<Table> = Table extends { columns: infer Own }
  ? { [Name in keyof Own]: Own[Name] extends Column<infer Value, boolean> ? Value : never }
  : never;

type Needed<Own> = { [Name in keyof Own]: Own[Name] extends Column<unknown> ? Name : never }[keyof Own];

/** What a new row must and may say. */
export type NewRowOf<Table> = Table extends { columns: infer Own }
  ? Pick<RowOf<Table>, Needed<Own> & keyof RowOf<Table>> & Partial<RowOf<Table>>
  : never;

export interface Table<Own extends Columns> {
  name: string;
  columns: Own;
}

export function table<Own extends Columns>(name: string, columns: Own): Table<Own> {
  return { name, columns };
}
