/** What a field shows while its value moves on, is typed over, refused, or left with something unsent. Pure: the hook keeps it. */

export interface Editing {
  /** What was typed and not taken; undefined while the field shows the value in force. */
  typed: string | undefined;
  /** The value in force when typing began; undefined once one's own edit is what has moved it. */
  base: string | undefined;
  /** The person is in the field. */
  inside: boolean;
  /** Something unsent that is not shown in the field itself: from an earlier visit, another tab, or overtaken by the value in force. */
  left: string | undefined;
}

export const calm = (left?: string): Editing => ({ typed: undefined, base: "", inside: false, left });

/** What stands in the field. */
export const shown = (state: Editing, value: string): string => state.typed ?? value;

export function entered(state: Editing): Editing {
  return { ...state, inside: true };
}

export function typedInto(state: Editing, value: string, text: string): Editing {
  return {
    ...state,
    inside: true,
    typed: text,
    base: state.typed === undefined ? value : (state.base ?? value),
    left: undefined,
  };
}

/** Whether leaving the field, or Enter, has anything to send. */
export function toSend(state: Editing, value: string): string | undefined {
  return state.typed === undefined || state.typed === value ? undefined : state.typed;
}

export function left(state: Editing, value: string): Editing {
  return toSend(state, value) === undefined ? { ...calm(state.left) } : { ...state, inside: false };
}

/** The server has taken a text. What has been typed since stays: it was not what was sent. */
export function taken(state: Editing, text: string): Editing {
  if (state.typed !== undefined && state.typed !== text) return { ...state, base: undefined };
  return { ...calm(), inside: state.inside };
}

/** Escape, or "throw away". */
export const dropped = (state: Editing): Editing => ({ ...calm(), inside: state.inside });

/** The value in force has moved on, by a key, a click, an undo or another hand. */
export function overtaken(state: Editing, value: string): Editing {
  if (state.typed === undefined) return state;
  if (state.typed === value) return { ...calm(), inside: state.inside };
  // Whoever is typing goes on; what merely stands there gives way, and is offered below.
  return state.inside ? state : { ...calm(state.typed) };
}

/** Whether the value in force is another than the one over which the person types. */
export const movedMeanwhile = (state: Editing, value: string): boolean =>
  state.inside &&
  state.typed !== undefined &&
  state.base !== undefined &&
  state.base !== value &&
  state.typed !== value;
