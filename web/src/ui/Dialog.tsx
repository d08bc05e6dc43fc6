import type { ReactNode } from 'react';
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components';

interface Props {
  title: string;
  children: ReactNode;
  /** Without it the dialog stays until what it asks for is done. */
  onClose?: () => void;
  /** An interruption that asks before something is done. */
  asks?: boolean;
  /** Shows something as it looks elsewhere. */
  wide?: boolean;
}

/** Over the screen, until it is answered. What was typed below stays there. */
export function Dialog({ title, children, onClose, asks = false, wide = false }: Props) {
  return (
    <ModalOverlay
      isOpen
      isDismissable={onClose !== undefined}
      isKeyboardDismissDisabled={onClose === undefined}
      onOpenChange={(open) => {
        if (!open) onClose?.();
      }}
      className="fixed inset-0 z-30 flex items-start justify-center overflow-auto bg-night/65 p-4 pt-[12dvh]"
    >
      <Modal
        className={`w-full ${wide ? 'max-w-2xl' : 'max-w-md'} rounded-box border border-line bg-base-100 text-base-content`}
      >
        <AriaDialog role={asks ? 'alertdialog' : 'dialog'} className="flex flex-col gap-3 p-5 outline-none">
          <Heading slot="title" level={2}>
            {title}
          </Heading>
          {children}
        </AriaDialog>
      </Modal>
    </ModalOverlay>
  );
}
