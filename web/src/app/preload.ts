/** What is opened first on most days, and then every screen, fetched once the page stands. */
export function preload(): void {
  window.setTimeout(() => {
    void import("../words/OpenWordMenu");
    void import("../spine/OpenPackMenu");
    void import("../frame/Find");
    void import("../frame/AllKeys");
  }, 500);
  window.setTimeout(() => {
    void import("../rulebook/Rulebook");
    void import("../footing/Footing");
    void import("../places/Places");
    void import("../documents/Documents");
    void import("../issue/Issue");
    void import("../figures/Figures");
    void import("../history/History");
  }, 2_000);
}
