interface Props {
  label: string;
  value: string;
  placeholder: string;
  /** The most characters that are kept of it. */
  most?: number;
  onChange: (value: string) => void;
  onBlur?: () => void;
}

/** A named line to write on. */
export function Field({ label, value, placeholder, most = 200, onChange, onBlur }: Props) {
  return (
    <label className="block text-[12px] font-semibold text-soft">
      {label}
      <input
        value={value}
        maxLength={most}
        placeholder={placeholder}
        className="mt-0.5 block w-full border-b border-teal bg-paper px-1 py-0.5 text-[13.5px] font-normal text-ink"
        onChange={(event) => onChange(event.target.value)}
        onBlur={onBlur}
      />
    </label>
  );
}
