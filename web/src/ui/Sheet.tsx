import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open: boolean;
  onClose: () => void;
  title: string;
  says: string;
  wide?: boolean;
  children: ReactNode;
}

/** A sheet laid over the desk; Escape takes it away. */
export function Sheet({ open, onClose, title, says, wide = false, children }: Props) {
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30 print:hidden" />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 max-h-[85vh] ${wide ? "w-[52rem]" : "w-[30rem]"} max-w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-md border border-hairline bg-panel-light p-5 print:hidden`}
        >
          <Dialog.Title className="text-[15px] font-semibold">{title}</Dialog.Title>
          <Dialog.Description className="mb-3 text-soft">{says}</Dialog.Description>
          {children}
          <Dialog.Close aria-label="Close" className="absolute top-4 right-4 rounded-sm p-1 hover:bg-white">
            <X size={16} aria-hidden="true" />
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
