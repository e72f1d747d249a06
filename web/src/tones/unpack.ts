/** Arrays as they come over the wire: little-endian, in base64. */

export function floats(text: string): Float32Array {
  return new Float32Array(bytes(text));
}

export function indices(text: string): Uint32Array {
  return new Uint32Array(bytes(text));
}

function bytes(text: string): ArrayBuffer {
  const plain = atob(text);
  const made = new Uint8Array(plain.length);
  for (let at = 0; at < plain.length; at += 1) made[at] = plain.charCodeAt(at);
  return made.buffer;
}
