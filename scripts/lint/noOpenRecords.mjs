/**
 * ESLint rule: no object stands for a table by strings, since an id from outside may be the name of its machinery
 * (`__proto__`, `constructor`). Such tables are Maps, or made by `byId`. What lists its own keys (`satisfies`) may.
 */
export const noOpenRecords = {
  meta: {
    type: 'problem',
    schema: [],
    messages: {
      open: 'A table by strings is a Map, or a `ById` made by `byId` (core/ground/byId.ts): ids from outside may be `__proto__`.',
    },
  },
  create(context) {
    if (/[/\\]core[/\\]ground[/\\]byId\.ts$/.test(context.filename)) return {};
    const isListed = (node) => {
      for (let at = node; at; at = at.parent) if (at.type === 'TSSatisfiesExpression') return true;
      return false;
    };
    return {
      TSTypeReference(node) {
        const [key] = node.typeArguments?.params ?? [];
        if (node.typeName.name === 'Record' && key?.type === 'TSStringKeyword' && !isListed(node))
          context.report({ node, messageId: 'open' });
      },
      TSIndexSignature(node) {
        const [key] = node.parameters;
        if (key?.typeAnnotation?.typeAnnotation.type === 'TSStringKeyword' && !isListed(node)) context.report({ node, messageId: 'open' });
      },
    };
  },
};
