/** The comment that stands right before a declaration. */
function docOf(code, node) {
  const comment = code.getCommentsBefore(node).at(-1);
  return comment?.value.startsWith('*') ? comment.value : '';
}

/** ESLint rule for core: an exported function that throws says so in its comment, with when. */
export const throwsAreSaid = {
  meta: { type: 'suggestion', schema: [], messages: { silent: '“{{name}}” can throw: its comment must say when (“Throws …”).' } },
  create(context) {
    return {
      ThrowStatement(node) {
        let depth = node.parent;
        // What an inner function throws is its own affair only where it is exported itself; so the outermost
        // declaration counts.
        while (depth && depth.parent?.type !== 'Program') depth = depth.parent;
        if (depth?.type !== 'ExportNamedDeclaration') return;
        const { declaration } = depth;
        const name = declaration?.id?.name ?? declaration?.declarations?.[0]?.id?.name;
        const isFunction =
          declaration?.type === 'FunctionDeclaration' || declaration?.declarations?.[0]?.init?.type === 'ArrowFunctionExpression';
        if (isFunction && !/\bthrows\b/i.test(docOf(context.sourceCode, depth)))
          context.report({ node: declaration.id ?? depth, messageId: 'silent', data: { name } });
      },
    };
  },
};
