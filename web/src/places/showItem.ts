const FRAMES = 120; // that an item may take to be drawn, when it was placed just now

/** Gives the focus to an item of the dashboard, once it is there. */
export function showItem(id: string, left = FRAMES): void {
  requestAnimationFrame(() => {
    const item = document.getElementById(`item:${id}`);
    if (item) item.focus();
    else if (left > 0) showItem(id, left - 1);
  });
}
