import { parse, protocol, type PGlite } from '@electric-sql/pglite';
import type { Parameter, Row } from '../database.ts';

const { serialize } = protocol;

/** So many statements stay prepared; the one that was used longest ago gives way. */
const MOST_KEPT = 500;

interface Prepared {
  name: string;
  /** The types of the parameters, by their object numbers. */
  types: readonly number[];
}

/**
 * Statements that the database keeps in mind: each text is parsed once, then one message binds and runs it, instead
 * of five. See PostgreSQL's documentation, "Extended Query".
 */
export class PreparedStatements {
  readonly #kept = new Map<string, Prepared>();
  #made = 0;

  constructor(private readonly database: PGlite) {}

  async query(sql: string, parameters: readonly Parameter[]): Promise<Row[]> {
    const { name, types } = await this.#prepared(sql);
    const values = parameters.map((value, at) => this.#text(value, types[at] ?? 0));
    const messages = await this.#send(
      serialize.bind({ statement: name, values }),
      serialize.describe({ type: 'P' }),
      serialize.execute({}),
    );
    return (parse.parseResults(messages, this.database.parsers)[0]?.rows ?? []) as Row[];
  }

  /** Forgets all of them: tables are another shape now. */
  async forget(): Promise<void> {
    this.#kept.clear();
    await this.database.exec('deallocate all');
  }

  async #prepared(sql: string): Promise<Prepared> {
    const known = this.#kept.get(sql);
    if (known) {
      this.#kept.delete(sql);
      this.#kept.set(sql, known);
      return known;
    }
    const name = `s${this.#made++}`;
    const described = await this.#send(
      serialize.parse({ name, text: sql }),
      serialize.describe({ type: 'S', name }),
    );
    const prepared = { name, types: parse.parseDescribeStatementResults(described) };
    this.#kept.set(sql, prepared);
    const [oldest] = this.#kept;
    if (this.#kept.size > MOST_KEPT && oldest) {
      this.#kept.delete(oldest[0]);
      await this.#send(serialize.close({ type: 'S', name: oldest[1].name }));
    }
    return prepared;
  }

  #text(value: Parameter, type: number): string | null {
    if (value === null) return null;
    const serializer = this.database.serializers[type];
    return serializer ? (serializer(value) as string) : String(value);
  }

  #send(...messages: readonly Uint8Array[]) {
    return this.database.execProtocolStream(Buffer.concat([...messages, serialize.sync()]), {
      syncToFs: false,
    });
  }
}
