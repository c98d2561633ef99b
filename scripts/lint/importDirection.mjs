import path from 'node:path';

/**
 * From the top: a layer imports from itself and those below. `data` and `workers` are neighbours that may use
 * each other.
 */
const height = { app: 5, views: 4, ui: 3, state: 2, data: 1, workers: 1, core: 0 };
const outside = { core: /^(react|react-dom|next|zustand|dexie|comlink|@react-three|three$)/ };

const layerOf = (file) => /(?:^|\/)src\/([^/]+)\//.exec(file.replaceAll('\\', '/'))?.[1];

/**
 * ESLint rule: imports point downward only (app → views → ui → state → data, workers → core), and core knows
 * no interface or storage.
 */
export const importDirection = {
  meta: {
    type: 'problem',
    schema: [],
    messages: { up: '{{from}} must not import from {{to}}: imports point downward only.', core: 'core must not import “{{name}}”.' },
  },
  create(context) {
    const from = layerOf(context.filename);
    if (from === undefined || !(from in height)) return {};
    const check = (node) => {
      const name = node.source?.value;
      if (typeof name !== 'string') return;
      const target = name.startsWith('@/')
        ? `src/${name.slice(2)}`
        : name.startsWith('.')
          ? path.join(path.dirname(context.filename), name)
          : null;
      if (target === null) {
        if (outside[from]?.test(name)) context.report({ node, messageId: 'core', data: { name } });
        return;
      }
      const to = layerOf(`${target}/`);
      if (to in height && height[to] > height[from]) context.report({ node, messageId: 'up', data: { from, to } });
    };
    return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check, ImportExpression: check };
  },
};
