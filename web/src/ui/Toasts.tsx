import { X } from 'lucide-react';
import {
  Button as PressButton,
  UNSTABLE_Toast as Toast,
  UNSTABLE_ToastContent as ToastContent,
  UNSTABLE_ToastQueue as ToastQueue,
  UNSTABLE_ToastRegion as ToastRegion,
} from 'react-aria-components';

/** What was done and has left no trace on the screen where it was done. */
export const said = new ToastQueue<string>({ maxVisibleToasts: 3 });

/** Where it is said in passing that something is done; it waits while one points at it. */
export function Toasts() {
  return (
    <ToastRegion
      queue={said}
      aria-label="Done"
      className="fixed bottom-4 left-1/2 z-40 flex w-max max-w-[calc(100vw-2rem)] -translate-x-1/2 flex-col gap-2 outline-none"
    >
      {({ toast }) => (
        <Toast
          toast={toast}
          className="flex items-center gap-3 rounded-box border-l-4 border-success bg-night py-2 pr-2 pl-4 text-white shadow-lg outline-none focus-visible:outline-2 focus-visible:outline-lamp"
        >
          <ToastContent>{toast.content}</ToastContent>
          <PressButton
            slot="close"
            aria-label="Close"
            className="cursor-pointer rounded-field p-1.5 hover:bg-white/15"
          >
            <X size={16} aria-hidden />
          </PressButton>
        </Toast>
      )}
    </ToastRegion>
  );
}
