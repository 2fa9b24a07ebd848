/**
 * A short name for a text's content: 16 hex digits, equal texts give equal names.
 * FNV-1a, 32 bit, run twice with different offsets. It tells versions of a sheet apart;
 * it is no protection against someone who wants two texts to collide.
 */
export function contentHash(text: string): string {
  return half(text, 0x811c9dc5) + half(text, 0x1000193 ^ 0x9e3779b9);
}

function half(text: string, offset: number): string {
  let hash = offset >>> 0;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    hash = Math.imul(hash ^ (unit & 0xff), 0x01000193);
    hash = Math.imul(hash ^ (unit >>> 8), 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, '0');
}
