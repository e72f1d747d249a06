import { Box, chakra, DatePicker, parseDate } from "@chakra-ui/react";
import { useSpelling } from "../../lib/format/spelling";
import { Button } from "./Button";

const Cell = chakra(DatePicker.TableCellTrigger, {
  base: {
    display: "flex",
    alignItems: "center",
    justifyContent: "center",
    minW: "32px",
    minH: { base: "44px", lg: "30px" },
    px: "6px",
    fontFamily: "mono",
    fontSize: "body",
    cursor: "pointer",
    borderRadius: "3px",
    "&[data-outside-range]": { color: "muted", opacity: 0.55 },
    "&[data-today]": { textDecoration: "underline", textUnderlineOffset: "4px" },
    "&[data-selected]": { bg: "accent", color: "onAccent" },
    _hover: { bg: "raised" },
  },
});

/** A month to choose a day from; its head leads to the months, and from there to the years. */
export default function Calendar({ day, choose }: { day: string; choose: (day: string) => void }) {
  const british = useSpelling().day_order === "day_first";
  return (
    <DatePicker.Root
      inline
      locale={british ? "en-GB" : "en-US"}
      timeZone="UTC"
      {...(day ? { defaultValue: [parseDate(day)] } : {})}
      onValueChange={(details) => {
        const chosen = details.value[0];
        if (chosen) choose(chosen.toString());
      }}
    >
      <DatePicker.Content minW="232px" color="fg">
        {(["day", "month", "year"] as const).map((view) => (
          <DatePicker.View key={view} view={view}>
            <DatePicker.ViewControl display="flex" justifyContent="space-between" alignItems="center" mb="4px">
              <DatePicker.PrevTrigger asChild>
                <Button look="quiet">‹</Button>
              </DatePicker.PrevTrigger>
              <DatePicker.ViewTrigger asChild>
                <Button look="quiet">
                  <DatePicker.RangeText />
                </Button>
              </DatePicker.ViewTrigger>
              <DatePicker.NextTrigger asChild>
                <Button look="quiet">›</Button>
              </DatePicker.NextTrigger>
            </DatePicker.ViewControl>
            {view === "day" ? (
              <DatePicker.Context>
                {(picker) => (
                  <DatePicker.Table>
                    <DatePicker.TableHead>
                      <DatePicker.TableRow>
                        {picker.weekDays.map((name) => (
                          <DatePicker.TableHeader
                            key={name.long}
                            aria-label={name.long}
                            color="muted"
                            fontSize="small"
                            fontWeight="400"
                          >
                            {name.short}
                          </DatePicker.TableHeader>
                        ))}
                      </DatePicker.TableRow>
                    </DatePicker.TableHead>
                    <DatePicker.TableBody>
                      {picker.weeks.map((week) => (
                        <DatePicker.TableRow key={week[0]?.toString()}>
                          {week.map((date) => (
                            <DatePicker.TableCell key={date.toString()} value={date} p="0">
                              <Cell>{date.day}</Cell>
                            </DatePicker.TableCell>
                          ))}
                        </DatePicker.TableRow>
                      ))}
                    </DatePicker.TableBody>
                  </DatePicker.Table>
                )}
              </DatePicker.Context>
            ) : (
              <DatePicker.Context>
                {(picker) => (
                  <DatePicker.Table>
                    <DatePicker.TableBody>
                      {(view === "month"
                        ? picker.getMonthsGrid({ columns: 4, format: "short" })
                        : picker.getYearsGrid({ columns: 4 })
                      ).map((row) => (
                        <DatePicker.TableRow key={row[0]?.value}>
                          {row.map((item) => (
                            <DatePicker.TableCell key={item.value} value={item.value} p="0">
                              <Cell>{item.label}</Cell>
                            </DatePicker.TableCell>
                          ))}
                        </DatePicker.TableRow>
                      ))}
                    </DatePicker.TableBody>
                  </DatePicker.Table>
                )}
              </DatePicker.Context>
            )}
          </DatePicker.View>
        ))}
      </DatePicker.Content>
      <Box display="flex" justifyContent="flex-end" mt="6px">
        <Button look="quiet" fontSize="small" onClick={() => choose(today())}>
          today
        </Button>
      </Box>
    </DatePicker.Root>
  );
}

const today = () => new Date().toLocaleDateString("sv-SE");
