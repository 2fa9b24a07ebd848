import { isMap, isPair, isScalar, visit, type Document } from 'yaml';
import { netById, type Board } from '../board/index.ts';

/** Keys under which a net is named by itself. */
const netKeys = new Set(['feed', 'powerGood', 'net', 'enable', 'at']);
const listKeys = new Set(['gives', 'after', 'reached', 'pins']);
const need = /^(\S+)(\s*[<>]\s*\S+)$/;

/** Writes another name wherever a net is named; needs inside a chip's behaviour speak of pins. */
function nameAnew(document: Document, board: Board, net: string, to: string): void {
  const names = new Set(
    [net, ...(netById(board, net)?.aliases ?? [])].map((one) => one.toUpperCase()),
  );
  const renamed = (text: string): string | null => {
    const [, name, rest] = need.exec(text) ?? [];
    if (name !== undefined) return names.has(name.toUpperCase()) ? `${to}${rest}` : null;
    return names.has(text.toUpperCase()) ? to : null;
  };
  for (const room of ['parts', 'chips', 'stages', 'points', 'sources', 'goals', 'button']) {
    const node = document.get(room);
    if (!isMap(node)) continue;
    visit(node, {
      Scalar(key, scalar, path) {
        if (key === 'key' || typeof scalar.value !== 'string') return;
        const keys = path
          .filter(isPair)
          .map((pair) => (isScalar(pair.key) ? String(pair.key.value) : ''));
        if (keys.includes('does') || keys.includes('draws')) return;
        const isNamed = keys.some((one) => netKeys.has(one) || listKeys.has(one));
        const next = isNamed ? renamed(scalar.value) : null;
        if (next !== null) scalar.value = next;
      },
    });
  }
}

/**
 * Renames a net everywhere in a sheet; the old name stays as another name of it, so that readings and
 * habits find it. Needs inside a chip's behaviour speak of pins and stay as they are.
 */
export function renameNet(document: Document, board: Board, net: string, to: string): void {
  nameAnew(document, board, net, to);
  const nets = document.get('nets');
  if (!isMap(nets)) return;
  const pair = nets.items.find((one) => isScalar(one.key) && one.key.value === net);
  if (!pair || !isScalar(pair.key)) return;
  pair.key.value = to;
  const aliases = (netById(board, net)?.aliases ?? []).filter(
    (one) => one.toUpperCase() !== to.toUpperCase(),
  );
  if (net.toUpperCase() !== to.toUpperCase()) aliases.push(net);
  if (!isMap(pair.value)) pair.value = document.createNode({});
  document.setIn(['nets', to, 'aliases'], document.createNode(aliases, { flow: true }));
}

/**
 * Two nets of a sheet turn out to be one: `net` goes, its names stay as names of `into`, so that every
 * reading is found. Stand-ins of a first sheet that joined the two go with it.
 */
export function mergeNets(document: Document, board: Board, net: string, into: string): void {
  nameAnew(document, board, net, into);
  const of = (id: string): string[] => netById(board, id)?.aliases ?? [];
  document.deleteIn(['nets', net]);
  const aliases = [...new Set([...of(into), ...of(net), net])];
  if (!isMap(document.getIn(['nets', into])))
    document.setIn(['nets', into], document.createNode({}));
  document.setIn(['nets', into, 'aliases'], document.createNode(aliases, { flow: true }));
  for (const { ref, isGuess, pins } of board.parts) {
    const ends = new Set(pins.map((pin) => (pin.net === net ? into : pin.net)));
    if (isGuess && ends.size === 1) document.deleteIn(['parts', ref]);
  }
}
