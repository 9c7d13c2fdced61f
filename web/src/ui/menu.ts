/** How every menu of the desk looks. */
export const MENU =
  "z-10 max-h-(--radix-dropdown-menu-content-available-height) min-w-56 overflow-y-auto rounded-md border border-ink bg-paper p-1 text-[13.5px] shadow-[0_2px_8px_rgb(20_38_43/0.15)] print:hidden";
export const MENU_ITEM =
  "relative flex cursor-pointer items-baseline justify-between gap-6 rounded-sm py-1 pr-2.5 pl-6 outline-none data-[highlighted]:bg-teal data-[highlighted]:text-white";

/** Opens a menu as Enter does, so that its first choice has the focus. */
export function openByKey(trigger: HTMLElement | null): void {
  trigger?.focus();
  trigger?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
}
