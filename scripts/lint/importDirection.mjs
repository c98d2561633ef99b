import path from 'node:path';
import { roomOf } from './rooms.mjs';

/**
 * From the top: a layer imports from itself and those below. `data` and `workers` are neighbours that may use
 * each other.
 */
const height = { app: 5, views: 4, ui: 3, state: 2, data: 1, workers: 1, core: 0 };
const outside = { core: /^(react|react-dom|next|zustand|dexie|comlink|@react-three|three$)/ };

const layerOf = (file) => /(?:^|\/)src\/([^/]+)\//.exec(file.replaceAll('\\', '/'))?.[1];

/**
 * ESLint rule: imports point downward only (app → views → ui → state → data, workers → core; within core and state as
 * `rooms.mjs` lists their rooms), and core knows no interface or storage. Tests may import from any room of their layer.
 */
export const importDirection = {
  meta: {
    type: 'problem',
    schema: [],
    messages: {
      up: '{{from}} must not import from {{to}}: imports point downward only.',
      core: 'core must not import “{{name}}”.',
      room: '“{{name}}” is no room: name it in scripts/lint/rooms.mjs.',
    },
  },
  create(context) {
    const from = layerOf(context.filename);
    if (from === undefined || !(from in height)) return {};
    const room = roomOf(context.filename);
    if (room?.height === -1) return { Program: (node) => context.report({ node, messageId: 'room', data: room }) };
    const isTest = /\.test\.[jt]s$/.test(context.filename);
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
      const other = roomOf(target);
      if (!isTest && room && other?.layer === from && other.height > room.height)
        context.report({ node, messageId: 'up', data: { from: `${from}/${room.name}`, to: `${from}/${other.name}` } });
    };
    return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check, ImportExpression: check };
  },
};
