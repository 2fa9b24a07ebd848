/**
 * Forbids calling the setter of `useState`, or the dispatch of `useReducer`, while the component draws:
 * in the same function that holds the hook, outside of any handler or effect. Two of these that answer
 * each other never end, and the page is gone.
 * @type {import('eslint').Rule.RuleModule}
 */
export const noStateWhileDrawing = {
  meta: {
    type: 'problem',
    messages: {
      whileDrawing:
        '{{name}} is called while drawing: derive the value, set it in a handler, or keep it in a store outside React.',
    },
    schema: [],
  },
  create(context) {
    /** @param {import('eslint').Rule.Node} node */
    const functionOf = (node) => {
      /** @type {import('eslint').Rule.Node | null} */
      let at = node.parent;
      while (at && !/Function/.test(at.type)) at = at.parent;
      return at ?? null;
    };
    /** @type {Map<unknown, Set<string>>} */
    const setters = new Map();
    return {
      VariableDeclarator(node) {
        const { id, init } = node;
        if (id.type !== 'ArrayPattern' || init?.type !== 'CallExpression') return;
        const name = nameOf(init.callee);
        const setter = id.elements[1];
        if (!['useState', 'useReducer'].includes(name) || setter?.type !== 'Identifier') return;
        const owner = functionOf(node);
        setters.set(owner, (setters.get(owner) ?? new Set()).add(setter.name));
      },
      CallExpression(node) {
        const { callee } = node;
        if (callee.type !== 'Identifier') return;
        if (setters.get(functionOf(node))?.has(callee.name))
          context.report({ node, messageId: 'whileDrawing', data: { name: callee.name } });
      },
    };
  },
};

/** @typedef {Parameters<NonNullable<import('eslint').Rule.NodeListener['CallExpression']>>[0]['callee']} Callee */
/** The name a hook is called by: `useState` or `React.useState`. @param {Callee} callee */
function nameOf(callee) {
  if (callee.type === 'Identifier') return callee.name;
  if (callee.type === 'MemberExpression' && callee.property.type === 'Identifier')
    return callee.property.name;
  return '';
}
