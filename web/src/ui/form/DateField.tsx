import { Popover, Portal } from "@chakra-ui/react";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { dayLater, dayText, readDay } from "../../lib/format/spelling";
import { FLOATING } from "../../theme/system";
import { Button } from "./Button";
import { Field } from "./Field";

const Calendar = lazy(() => import("./Calendar"));

/** A date as a text field in the order that is preferred, with a calendar; arrow keys go from day to day. What is typed is read by the server. */
export function DateField({
  label,
  value,
  save,
  aside,
  ...rest
}: {
  label: string;
  name: string;
  /** 2026-11-24, or empty. */
  value: string;
  save: (text: string) => Promise<unknown>;
  hint?: ReactNode;
  serverError?: string | undefined;
  remark?: string | undefined;
  aside?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Field
      {...rest}
      label={label}
      value={value ? dayText(value) : ""}
      placeholder={dayText("2026-11-24")}
      save={save}
      stepped={(text, by) => {
        const day = readDay(text);
        return day === undefined ? undefined : dayText(dayLater(day, by));
      }}
      aside={aside}
      after={
        <Popover.Root
          open={open}
          onOpenChange={(details) => setOpen(details.open)}
          positioning={{ placement: "bottom-end" }}
          lazyMount
          unmountOnExit
        >
          <Popover.Trigger asChild>
            <Button look="quiet" px="2px" fontSize="small" aria-label={`calendar: ${label}`}>
              calendar
            </Button>
          </Popover.Trigger>
          <Portal>
            <Popover.Positioner zIndex="12">
              <Popover.Content {...FLOATING} p="10px" aria-label={label}>
                <Suspense fallback="…">
                  <Calendar
                    day={value}
                    choose={(day) => {
                      setOpen(false);
                      void save(day).catch(() => undefined);
                    }}
                  />
                </Suspense>
              </Popover.Content>
            </Popover.Positioner>
          </Portal>
        </Popover.Root>
      }
    />
  );
}
