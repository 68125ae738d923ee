/** A small generator with a seed, so that what was found can be found again. */
export function dice(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

const TEXTS = [
  '',
  ' ',
  '\u0000',
  'undefined',
  '__proto__',
  'constructor',
  '../../etc/passwd',
  "' OR 1=1 --",
  '<script>alert(1)</script>',
  '🂡🂮',
  '\u202eabc',
  '\ud800',
  'K♣',
  'hand/1#1',
  '9'.repeat(400),
  'x'.repeat(5_000),
];
const NUMBERS = [0, -1, 1, 13, 0.5, 1e21, -(2 ** 53), 2 ** 53, 1e308, 4_294_967_296];

type Schema = Readonly<Record<string, unknown>>;

/** Values that mostly fit a JSON Schema, and sometimes do not. */
export class Fuzz {
  constructor(readonly random: () => number) {}

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }
  private chance(part: number): boolean {
    return this.random() < part;
  }

  /** Anything that JSON can say. */
  anything(depth = 0): unknown {
    const kind = this.random();
    if (kind < 0.25) return this.pick(TEXTS);
    if (kind < 0.45) return this.pick(NUMBERS);
    if (kind < 0.6) return this.pick([null, true, false]);
    if (depth > 5) return [];
    const count = this.pick([0, 1, 2, 30]);
    if (kind < 0.8) return Array.from({ length: count }, () => this.anything(depth + 1));
    return Object.fromEntries(
      Array.from({ length: count }, (_, i) => [this.pick([...TEXTS, `k${i}`]), this.anything(depth + 1)]),
    );
  }

  /** A value that fits the schema but for what chance spoils. */
  value(schema: Schema, spoil = 0.15, depth = 0): unknown {
    if (this.chance(spoil)) return this.anything(depth);
    const { type, properties, items } = schema as {
      type?: string | string[];
      properties?: Record<string, Schema>;
      items?: Schema;
    };
    if (schema.const !== undefined) return schema.const;
    if (Array.isArray(schema.enum)) return this.pick(schema.enum as unknown[]);
    const either = schema.anyOf ?? schema.oneOf;
    if (Array.isArray(either)) return this.value(this.pick(either as Schema[]), spoil, depth + 1);
    const kind = Array.isArray(type) ? this.pick(type) : type;
    switch (kind) {
      case 'object': {
        const made: Record<string, unknown> = {};
        const required = (schema.required as string[] | undefined) ?? [];
        for (const [name, inner] of Object.entries(properties ?? {}))
          if (required.includes(name) || this.chance(0.5)) made[name] = this.value(inner, spoil, depth + 1);
        if (this.chance(spoil)) made[this.pick(TEXTS)] = this.anything(depth + 1);
        return made;
      }
      case 'array':
        return Array.from({ length: this.pick([0, 1, 2, 13]) }, () => this.value(items ?? {}, spoil, depth + 1));
      case 'integer':
      case 'number':
        return this.chance(0.6) ? Math.floor(this.random() * 14) : this.pick(NUMBERS);
      case 'boolean':
        return this.chance(0.5);
      case 'null':
        return null;
      case 'string':
        return this.pick(['Wren', 'Lantern Twenty-One', 'steady', 'bet', 'stand', ...TEXTS]);
      default:
        return this.anything(depth);
    }
  }

  /** A text as it comes over a line that breaks it. */
  broken(text: string): string {
    const way = this.random();
    if (way < 0.6) return text;
    if (way < 0.75) return text.slice(0, Math.floor(this.random() * text.length));
    if (way < 0.85) return `${'['.repeat(4_000)}${text}`;
    if (way < 0.95) return text.replace(/[{}:,"]/, this.pick(TEXTS.slice(0, 4)));
    return text + text;
  }
}
