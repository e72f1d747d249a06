import { ApiError } from "../api/client";
import { nameOf } from "./facts";

/** Values by the name of their field. */
export type Values = Record<string, unknown>;

// What the server computes from the state it finds: never sent together with other values.
const COMMANDS = new Set(["keep_subject_size", "crop_share"]);
const RETRY_MS = [1000, 2000, 4000, 8000];
const BUSY_MS = 150;
const BUSY_TRIES = 3;

interface Unit {
  patch: Values;
  /** It is sent by itself: a command, or one of several of which one was refused. */
  alone: boolean;
  tries: number;
  resolve: () => void;
  reject: (error: unknown) => void;
}

/** A value of ours that another hand has changed meanwhile. */
export interface Clash {
  patch: Values;
  fields: string[];
}

export interface QueueState {
  /** What is on its way or waiting, the newest of each field. */
  asked: Values;
  /** Sentences by field for what was refused. */
  errors: Record<string, string>;
  /** Why nothing goes out at the moment; undefined while all is well. */
  away: string | undefined;
  clash: Clash | undefined;
  /** A failure that belongs to no field. */
  failure: string | undefined;
  /** Edits of an earlier visit that never went out. */
  left: Values | undefined;
}

export interface Wire<Answer> {
  send: (patch: Values) => Promise<Answer>;
  /** Let the answer stand. What was asked for counts as asked until it does, so that nothing flickers back in between. */
  answered: (answer: Answer, patch: Values) => void | Promise<void>;
  /** How long the next request waits after an answer. */
  calm?: (patch: Values) => Promise<void>;
  /** Fetch the newest state after someone else has changed it. */
  refresh: () => Promise<void>;
  wait: (ms: number) => Promise<void>;
  /** Where edits that could not go out outlast the page. */
  keep: (values: Values | undefined) => void;
  kept: () => Values | undefined;
}

/**
 * The edits of one thing, in order. What is edited while a request is under way goes out together next; of several values one that is
 * refused does not take the others along; while the server is away edits wait and go out when it is back.
 */
export class EditQueue<Answer> {
  private waiting: Unit[] = [];
  private flying: Unit[] = [];
  private busy = false;
  private fails = 0;
  private wake: (() => void) | undefined;
  private listeners = new Set<() => void>();
  private state: QueueState;

  constructor(private readonly wire: Wire<Answer>) {
    this.state = { asked: {}, errors: {}, away: undefined, clash: undefined, failure: undefined, left: wire.kept() };
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = (): QueueState => this.state;

  /** Add an edit. Settles when the server has taken or refused it; its values stay together. */
  add = (patch: Values): Promise<void> =>
    new Promise((resolve, reject) => {
      const alone = Object.keys(patch).some((name) => COMMANDS.has(name));
      this.waiting.push({ patch, alone, tries: 0, resolve, reject });
      this.tell({ failure: undefined });
      void this.pump();
    });

  /** Try at once instead of waiting for the next turn. */
  retry = (): void => {
    this.wake?.();
    void this.pump();
  };

  /** Settles when nothing is on its way or waiting any more, or when the server is away. */
  idle = (): Promise<void> =>
    new Promise((resolve) => {
      const done = () => !this.busy || this.state.away !== undefined;
      if (done()) return resolve();
      const leave = this.subscribe(() => {
        if (!done()) return;
        leave();
        resolve();
      });
    });

  /** Throw away what has not gone out. */
  discard = (): void => {
    for (const unit of this.waiting) unit.reject(new ApiError(0, "Thrown away."));
    this.waiting = [];
    this.tell({ away: undefined, left: undefined });
    this.wake?.();
    this.wire.keep(undefined);
  };

  /** Send what an earlier visit left, or throw it away. */
  sendLeft = (): void => {
    const { left } = this.state;
    this.tell({ left: undefined });
    this.wire.keep(undefined);
    if (left) void this.add(left).catch(() => undefined);
  };

  /** Of a value that was changed elsewhere, take one's own or leave the other's. */
  settleClash = async (mine: boolean): Promise<void> => {
    const { clash } = this.state;
    this.tell({ clash: undefined });
    if (!clash || !mine) return;
    await this.wire.refresh();
    await this.add(clash.patch).catch(() => undefined);
  };

  forgetErrors = (): void => this.tell({ errors: {}, failure: undefined });

  /** Forget the refusal of a field whose draft was thrown away. */
  forgive = (field: string): void => {
    if (field in this.state.errors) this.tell({ errors: without(this.state.errors, [field]) });
  };

  private async pump(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    while (this.waiting.length) {
      this.flying = this.next();
      const patch = merged(this.flying);
      this.tell({});
      try {
        const answer = await this.wire.send(patch);
        this.fails = 0;
        await this.wire.answered(answer, patch);
        const landed = this.flying;
        this.flying = [];
        this.tell({ away: undefined, errors: without(this.state.errors, Object.keys(patch)) });
        for (const unit of landed) unit.resolve();
        await this.wire.calm?.(patch);
      } catch (error) {
        await this.failed(error);
      }
    }
    this.busy = false;
    this.tell({});
  }

  /** The edits that may go out in one request. */
  private next(): Unit[] {
    const [first, ...rest] = this.waiting;
    if (!first) return [];
    if (first.alone) {
      this.waiting = rest;
      return [first];
    }
    const end = this.waiting.findIndex((unit) => unit.alone);
    const batch = end < 0 ? this.waiting : this.waiting.slice(0, end);
    this.waiting = this.waiting.slice(batch.length);
    return batch;
  }

  private async failed(error: unknown): Promise<void> {
    const batch = this.flying;
    this.flying = [];
    const known =
      error instanceof ApiError ? error : new ApiError(500, error instanceof Error ? error.message : String(error));
    if (known.away) {
      this.waiting = [...batch, ...this.waiting];
      this.tell({ away: known.message });
      this.wire.keep(merged(this.waiting));
      await this.pause(RETRY_MS[Math.min(this.fails++, RETRY_MS.length - 1)] ?? 8000);
      return;
    }
    if (this.state.away !== undefined) this.wire.keep(undefined);
    if (batch.length > 1) {
      // Which of them it was is found by sending each by itself.
      this.waiting = [...batch.map((unit) => ({ ...unit, alone: true })), ...this.waiting];
      this.tell({ away: undefined });
      return;
    }
    const unit = batch[0];
    if (!unit) return;
    if (known.status === 409 && known.kind === "conflict" && unit.tries < BUSY_TRIES) {
      this.waiting = [{ ...unit, tries: unit.tries + 1 }, ...this.waiting];
      await this.wire.wait(BUSY_MS);
      return;
    }
    const names = Object.keys(unit.patch);
    if (known.status === 409 && known.kind === "changed") {
      this.tell({
        away: undefined,
        clash: { patch: unit.patch, fields: known.fields.map((item) => nameOf(item.field)) },
      });
      await this.wire.refresh().catch(() => undefined);
    } else if (known.status === 422) {
      const said = Object.fromEntries(known.fields.map((item) => [nameOf(item.field), item.message]));
      this.tell({
        away: undefined,
        errors: { ...without(this.state.errors, names), ...said },
        failure: known.fields.length ? undefined : known.message,
      });
    } else this.tell({ away: undefined, failure: known.message });
    unit.reject(known);
  }

  private async pause(ms: number): Promise<void> {
    const woken = new Promise<void>((resolve) => {
      this.wake = resolve;
    });
    await Promise.race([this.wire.wait(ms), woken]);
    this.wake = undefined;
  }

  private tell(change: Partial<QueueState>): void {
    const asked = merged([...this.flying, ...this.waiting]);
    if ("away" in change && change.away === undefined && this.state.away !== undefined && !this.waiting.length)
      this.wire.keep(undefined);
    this.state = { ...this.state, ...change, asked };
    for (const listener of this.listeners) listener();
  }
}

function merged(units: { patch: Values }[]): Values {
  return Object.assign({}, ...units.map((unit) => unit.patch)) as Values;
}

function without(errors: Record<string, string>, names: string[]): Record<string, string> {
  return Object.fromEntries(Object.entries(errors).filter(([name]) => !names.includes(name)));
}

/**
 * Ticks, choices and references as they will be once what was asked for is answered. Figures stay as answered: the drawings that a
 * hand moves run ahead by themselves, and what they show must fit together.
 */
export function overlaid<Facts extends object>(facts: Facts, asked: Values): Facts {
  const known = facts as Values;
  const plain = Object.entries(asked).filter(([name, value]) => name in known && isChoice(name, known[name], value));
  return plain.length ? { ...facts, ...Object.fromEntries(plain) } : facts;
}

function isChoice(name: string, old: unknown, next: unknown): boolean {
  if (typeof next === "boolean" || Array.isArray(next)) return true;
  if (name.endsWith("_id")) return next === null || typeof next === "number";
  if (next === null) return typeof old === "string" && !/\d/.test(old);
  return typeof next === "string" && !/\d/.test(next) && (old === null || typeof old === "string");
}
