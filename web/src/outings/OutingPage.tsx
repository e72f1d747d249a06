import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { useAct } from "../lib/drafts/useAct";
import { useTitle } from "../lib/focus/useTitle";
import { plain } from "../lib/format/numbers";
import { ShareButton } from "../sharing/ShareButton";
import { Button, ButtonLink } from "../ui/form/Button";
import { DateField } from "../ui/form/DateField";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Choice, Field } from "../ui/form/Field";
import { Mark } from "../ui/layout/Mark";
import { Row, Section } from "../ui/layout/Section";
import { FailedPage, Pending } from "../ui/layout/States";
import { complain } from "../ui/overlay/toaster";
import { UndoBar } from "../ui/overlay/UndoBar";
import { DayClock } from "./DayClock";
import { FromAbove } from "./FromAbove";
import { Packing } from "./Packing";
import { Stops } from "./Stops";
import { type Outing, type OutingWork, useOuting } from "./useOuting";

/** One outing: its day clock and the way from above at the left, stops, limits and the bag at the right. */
export default function OutingPage() {
  const id = Number(useParams().outingId);
  const { query, ...edits } = useOuting(id);
  const [chosen, setChosen] = useState<number | null>(null);
  const outing = query.data;
  useTitle(outing?.facts.name, "outing");
  if (query.error && !outing) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!outing) return <Pending what="the outing" />;
  const work: OutingWork = { outing, ...edits };
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="10px">
      <Box display="flex" alignItems="baseline" gap="14px" flexWrap="wrap" mb="8px">
        <Box as="h1" fontSize="title" fontWeight="700">
          {outing.facts.name}
        </Box>
        <Box display="flex" gap="7px" alignItems="center" data-verdict={outing.mark}>
          <Mark mark={outing.mark} />
          {outing.verdict}
        </Box>
        <Box flex="1" />
        <UndoBar undo={outing.undo} scopes={[`outing:${outing.id}`]} />
        <TakeAlong outing={outing} />
        {outing.stops.some((stop) => stop.shot_id !== null) && <ShareButton of={{ outing: outing.id }} look="quiet" />}
        <Link to={`/outings/${outing.id}/card`}>card</Link>
        {(["ics", "gpx", "json"] as const).map((ending) => (
          <ButtonLink key={ending} look="quiet" px="3px" href={`/api/outings/${outing.id}/export/${ending}`} download>
            {{ ics: "calendar", gpx: "GPX", json: "JSON" }[ending]}
          </ButtonLink>
        ))}
      </Box>
      <Box
        display="grid"
        gap="14px 24px"
        gridTemplateColumns="minmax(0, 1fr)"
        css={{ "@media (min-width: 960px)": { gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)" } }}
      >
        <Box minW="0" display="grid" gap="14px" alignContent="start">
          <Box overflowX="auto">
            <Box minW="560px">
              <DayClock outing={outing} chosen={chosen} choose={setChosen} />
            </Box>
          </Box>
          <Because outing={outing} />
          {outing.spots.length > 1 && (
            <Box height="220px">
              <FromAbove outing={outing} />
            </Box>
          )}
        </Box>
        <Box minW="0">
          <Late {...work} />
          <Stops {...work} chosen={chosen} choose={setChosen} />
          <Limits {...work} />
          <Packing {...work} />
          <Remove {...work} />
        </Box>
      </Box>
    </Box>
  );
}

/** The field cards of all its shots in one page that needs no server; those that are missing are made first. */
function TakeAlong({ outing }: Pick<OutingWork, "outing">) {
  const make = useAct(async () => {
    await take(client.POST("/api/outings/{outing_id}/cards", { params: { path: { outing_id: outing.id } } }));
    const link = document.createElement("a");
    link.href = `/api/outings/${outing.id}/take-along`;
    link.download = "";
    link.click();
  });
  if (!outing.stops.some((stop) => stop.shot_id !== null)) return null;
  return (
    <Button look="quiet" disabled={make.isPending} onClick={() => make.mutate(undefined)}>
      save for the phone
    </Button>
  );
}

function Because({ outing }: Pick<OutingWork, "outing">) {
  return (
    <Box as="ul" fontSize="body" display="grid" gap="4px" data-because="">
      {outing.because.map((reason) => (
        <Box as="li" key={reason.text} display="grid" gridTemplateColumns="20px 1fr" alignItems="baseline">
          <Mark mark={reason.severity} size={5} />
          <span>{reason.text}</span>
        </Box>
      ))}
      {outing.plans_b.map((plan) => (
        <PlanB key={plan.stop} plan={plan} />
      ))}
    </Box>
  );
}

/** Where else to go, by when that is decided, and how the rest of the day then goes. */
function PlanB({ plan }: { plan: Outing["plans_b"][number] }) {
  return (
    <Box as="li" display="grid" gridTemplateColumns="20px 1fr" alignItems="baseline" data-plan-b={plan.stop}>
      <Mark mark={plan.mark} size={5} />
      <div>
        {plan.name}: {plan.text}
        {plan.times.length > 0 && (
          <Box fontFamily="mono" fontSize="small" color="muted" display="flex" flexWrap="wrap" gap="0 12px">
            {plan.times.map((time) => (
              <span key={time}>{time}</span>
            ))}
          </Box>
        )}
        {plan.minded.map((reason) => (
          <Box key={reason.text} color="muted">
            By plan B: {reason.text}
          </Box>
        ))}
      </div>
    </Box>
  );
}

/** What runs late is planned again, from where one is by then. */
function Late({ outing, change }: OutingWork) {
  const { late_min } = outing.facts;
  const later = (minutes: number) =>
    void change({ late_min: minutes }).catch((failure: Error) => complain(failure.message, "outing"));
  return (
    <Section title="Running late">
      <Row least="110px">
        <Field
          label="Late by"
          unit="min"
          name={`outing:${outing.id}:late_min`}
          value={plain(late_min)}
          step={5}
          save={(text) => change({ late_min: text.trim() || "0" })}
        />
        <Box display="flex" gap="8px" alignSelf="end">
          {[20, 40].map((minutes) => (
            <Button key={minutes} onClick={() => later(late_min + minutes)}>
              {minutes} min more
            </Button>
          ))}
          {late_min > 0 && (
            <Button look="quiet" onClick={() => later(0)}>
              in time
            </Button>
          )}
        </Box>
      </Row>
    </Section>
  );
}

function Limits({ outing, change }: OutingWork) {
  const { facts } = outing;
  const clock = (name: "leave_clock" | "back_clock", label: string) => (
    <Field
      label={label}
      name={`outing:${outing.id}:${name}`}
      value={outing.labels[name] ?? ""}
      placeholder="any"
      save={(text) => change({ [name]: text.trim() || null })}
    />
  );
  return (
    <Section title="Limits and words">
      <Choice
        label="Order"
        value={facts.stop_order}
        options={OPTIONS.StopOrder}
        choose={(stop_order) =>
          void change({ stop_order }).catch((failure: Error) => complain(failure.message, "outing"))
        }
      />
      <Row least="176px">
        <DateField
          label="Date"
          name={`outing:${outing.id}:date_local`}
          value={facts.date_local}
          save={(text) => change({ date_local: text })}
        />
        <Field
          label="Days"
          name={`outing:${outing.id}:days`}
          value={plain(facts.days)}
          step={1}
          save={(text) => change({ days: Number(text) })}
        />
        {clock("leave_clock", "Leave no earlier than")}
        {clock("back_clock", "Back by")}
        <Field
          label="Walk at most"
          unit="m"
          name={`outing:${outing.id}:most_walk_m`}
          value={facts.most_walk_m === null ? "" : plain(facts.most_walk_m)}
          placeholder="any"
          save={(text) => change({ most_walk_m: text.trim() || null })}
        />
      </Row>
      {facts.days > 1 && <Nights outing={outing} change={change} />}
      <Row least="180px">
        <Field
          words
          label="Name"
          name={`outing:${outing.id}:name`}
          value={facts.name}
          save={(text) => change({ name: text })}
        />
        <Field
          words
          label="Word left with"
          name={`outing:${outing.id}:contact`}
          value={facts.contact}
          placeholder="who knows when you are back"
          save={(text) => change({ contact: text })}
        />
      </Row>
      <Field
        words
        label="Note"
        name={`outing:${outing.id}:note`}
        value={facts.note}
        save={(text) => change({ note: text })}
      />
    </Section>
  );
}

/** Where the nights between the days are spent, and for a base how far it is. */
function Nights({ outing, change }: Pick<OutingWork, "outing" | "change">) {
  const { facts } = outing;
  const figure = (name: "night_h" | "base_evening_min" | "base_morning_min", label: string, unit: string) => (
    <Field
      label={label}
      unit={unit}
      name={`outing:${outing.id}:${name}`}
      value={plain(facts[name])}
      save={(text) => change({ [name]: text })}
    />
  );
  return (
    <>
      <Choice
        label="Nights"
        value={facts.nights}
        options={OPTIONS.Nights}
        choose={(nights) => void change({ nights }).catch((failure: Error) => complain(failure.message, "outing"))}
      />
      {facts.nights !== "out" && (
        <Row least="150px">
          {figure("night_h", "Shortest night", "h")}
          {facts.nights === "base" && (
            <>
              <Field
                words
                label="Base"
                name={`outing:${outing.id}:base_name`}
                value={facts.base_name}
                placeholder="hostel, hut"
                save={(text) => change({ base_name: text })}
              />
              {figure("base_evening_min", "Drive to it", "min")}
              {figure("base_morning_min", "Drive from it", "min")}
            </>
          )}
        </Row>
      )}
    </>
  );
}

function Remove({ outing }: OutingWork) {
  const navigate = useNavigate();
  return (
    <DeleteButton
      name={outing.facts.name}
      remove={async () => {
        await take(client.DELETE("/api/outings/{outing_id}", { params: { path: { outing_id: outing.id } } }));
        void navigate("/outings");
      }}
    />
  );
}
