/** The key that does the same as the control it stands in. */
export function Key({ children, light = false }: { children: string; light?: boolean }) {
  const tone = light ? "border-white/50 text-white" : "border-hairline text-soft";
  return (
    <kbd
      aria-hidden="true"
      className={`ml-1.5 inline-block min-w-4 rounded-sm border px-1 text-center text-[11px]/4 font-medium ${tone}`}
    >
      {children}
    </kbd>
  );
}
