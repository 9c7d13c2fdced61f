/** What is opened first on most days, fetched once the page stands, so that it opens at once. */
export function preload(): void {
  window.setTimeout(() => {
    void import("../words/OpenWordMenu");
    void import("../spine/OpenPackMenu");
    void import("../frame/Find");
    void import("../frame/AllKeys");
  }, 500);
}
