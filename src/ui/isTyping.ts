/** Whether keys belong to what has the focus: a field, an open menu or a list. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  const isField =
    target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && target.type !== 'range' && target.type !== 'checkbox');
  return isField || target.isContentEditable || target.closest('[role="menu"], [role="listbox"], [role="combobox"]') !== null;
}
