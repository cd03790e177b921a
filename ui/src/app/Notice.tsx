import { Toast } from "radix-ui";
import { useNotice } from "../lib/notice";

/** The newest notice at the foot of the screen, for a while. */
export default function Notice() {
  const { notice, close } = useNotice();
  return (
    <Toast.Provider duration={8000} label="Notice">
      {notice ? (
        <Toast.Root
          key={notice.id}
          open
          onOpenChange={(open) => !open && close()}
          // Without anything to click it lets clicks through to what it covers.
          className={`flex items-center gap-4 rounded-md border border-edge bg-ink px-4 py-2.5 text-paper text-sm shadow-lg ${
            notice.action ? "pointer-events-auto" : ""
          }`}
        >
          <Toast.Description>{notice.text}</Toast.Description>
          {notice.action ? (
            <Toast.Action
              altText={notice.action.label}
              className="font-semibold underline"
              onClick={notice.action.act}
            >
              {notice.action.label}
            </Toast.Action>
          ) : null}
          {notice.action ? (
            <Toast.Close aria-label="Close the notice" className="-mr-2 px-2 py-1">
              ×
            </Toast.Close>
          ) : null}
        </Toast.Root>
      ) : null}
      <Toast.Viewport className="pointer-events-none fixed bottom-4 left-1/2 z-50 w-max max-w-[92vw] -translate-x-1/2" />
    </Toast.Provider>
  );
}
