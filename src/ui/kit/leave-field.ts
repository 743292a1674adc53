/** What fields lie in that can have the focus instead of them. */
const AROUND = "section, [role=dialog], aside, header, main";

/**
 * Leaves a field, as Enter does everywhere: the focus goes to what the field lies in, so that the next key is a command, and
 * Tab goes on from there.
 */
export function leaveField(field: HTMLElement): void {
  const around = field.parentElement?.closest<HTMLElement>(AROUND);
  if (!around) return field.blur();
  if (!around.hasAttribute("tabindex")) around.tabIndex = -1;
  around.focus({ preventScroll: true });
}
