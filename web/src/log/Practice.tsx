import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { practiceQuery, questionQuery } from "../api/queries";
import { readySound, signal } from "../field/runner/signals";
import { useAct } from "../lib/drafts/useAct";
import { ink } from "../theme/system";
import { Button } from "../ui/form/Button";
import { Input } from "../ui/form/Field";
import { Failed, Pending } from "../ui/layout/States";

type Exercise = Schemas["ExerciseOut"];

const LARGEST_SEED = 2 ** 31 - 1;
const newSeed = () => Math.floor(Math.random() * LARGEST_SEED);

/** Short exercises with one's own kit: each with its aim, its goal, and how it went from day to day. */
export function Practice() {
  const query = useQuery(practiceQuery());
  const [chosen, setChosen] = useState<string | null>(null);
  if (query.error) return <Failed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the exercises" />;
  return (
    <Box as="ul" pt="8px" maxW="820px" data-practice="">
      {query.data.exercises.map((item) => (
        <Box as="li" key={item.name} py="10px" borderTop="1px solid" borderColor="line" display="grid" gap="6px">
          <Box display="flex" gap="14px" alignItems="center" flexWrap="wrap">
            <Box fontWeight="650" fontSize="lead" flex="1">
              {item.label[0]?.toUpperCase()}
              {item.label.slice(1)}
            </Box>
            <Days days={item.days} />
            <Button
              aria-expanded={chosen === item.name}
              onClick={() => setChosen(chosen === item.name ? null : item.name)}
              look={chosen === item.name ? "chosen" : "plain"}
            >
              {chosen === item.name ? "Enough" : "Practise"}
            </Button>
          </Box>
          <Box color="muted" fontSize="body">
            {item.aim} Goal: {item.goal}
          </Box>
          {chosen === item.name && <Asked exercise={item} />}
        </Box>
      ))}
    </Box>
  );
}

const LINE_W = 150;
const LINE_H = 26;

/** The share of right answers from day to day as a line, with the last day in words. */
function Days({ days }: { days: Exercise["days"] }) {
  const last = days.at(-1);
  if (!last) return <Box color="muted">not tried yet</Box>;
  const point = (day: Exercise["days"][number], at: number) => ({
    x: days.length > 1 ? 4 + (at / (days.length - 1)) * (LINE_W - 8) : LINE_W - 4,
    y: LINE_H - 4 - (day.right / day.count) * (LINE_H - 8),
  });
  const points = days.map(point);
  const end = points.at(-1);
  return (
    <Box display="flex" gap="10px" alignItems="center" fontSize="body">
      <svg
        width={LINE_W}
        height={LINE_H}
        role="img"
        aria-label={`right answers by day: ${days.map((day) => `${day.day} ${day.right} of ${day.count}`).join(", ")}`}
      >
        <line x1="0" x2={LINE_W} y1={4} y2={4} stroke={ink("line")} />
        <polyline
          points={points.map(({ x, y }) => `${x},${y}`).join(" ")}
          fill="none"
          stroke={ink("accent")}
          strokeWidth="2"
        />
        {end && <circle cx={end.x} cy={end.y} r="3" fill={ink("accent")} />}
      </svg>
      <span>
        {last.right} of {last.count} right on {last.day}
      </span>
    </Box>
  );
}

function Asked({ exercise }: { exercise: Exercise }) {
  const [seed, setSeed] = useState(newSeed);
  const [text, setText] = useState("");
  const [told, setTold] = useState<Schemas["MarkedOut"] | null>(null);
  const [wrong, setWrong] = useState("");
  const query = useQuery(questionQuery(exercise.name, seed));
  const answer = useAct(
    () =>
      take(
        client.POST("/api/practice/answers", {
          body: { exercise: exercise.name, seed: query.data?.seed ?? seed, answer: text.trim() },
        }),
      ),
    // The question stays until one goes on.
    { quiet: true, only: ["practice list"] },
  );
  if (!query.data) return <Box color="muted">…</Box>;
  const check = async () => {
    setWrong("");
    try {
      setTold(await answer.mutateAsync(undefined));
    } catch (failure) {
      setWrong((failure as Error).message);
    }
  };
  const next = () => {
    setSeed(newSeed());
    setText("");
    setTold(null);
  };
  return (
    <Box
      as="form"
      display="grid"
      gap="8px"
      bg="panel"
      p="12px"
      onSubmit={(event) => {
        event.preventDefault();
        if (told) next();
        else void check();
      }}
    >
      {query.data.again && (
        <Box fontSize="small" color="muted">
          {query.data.again}
        </Box>
      )}
      <Box fontSize="lead">{query.data.text}</Box>
      {query.data.bars.length > 0 && <Histogram bars={query.data.bars} />}
      {query.data.beat_per_min !== null && <Metronome perMin={query.data.beat_per_min} />}
      <Box display="flex" gap="8px" alignItems="center" flexWrap="wrap">
        <Input
          width="150px"
          aria-label="Your answer"
          value={text}
          placeholder={query.data.unit}
          disabled={told !== null}
          onChange={(event) => setText(event.target.value)}
        />
        {told === null ? (
          <Button type="submit" look="main" disabled={!text.trim() || answer.isPending}>
            Check
          </Button>
        ) : (
          <Button type="submit" look="main">
            Next
          </Button>
        )}
        {told && (
          <Box role="status">
            <b>{told.score >= 100 ? "Right." : `${Math.round(told.score)} of 100.`}</b> {told.right}
          </Box>
        )}
        {wrong && (
          <Box role="alert" color="rust">
            {wrong}
          </Box>
        )}
      </Box>
      {told?.working.map((line) => (
        <Box key={line} fontSize="body" color="muted">
          {line}
        </Box>
      ))}
    </Box>
  );
}

function Histogram({ bars }: { bars: number[] }) {
  return (
    <svg
      viewBox={`0 0 ${bars.length * 10} 100`}
      width="100%"
      height="120"
      preserveAspectRatio="none"
      role="img"
      aria-label="A histogram, dark at the left"
    >
      <rect width={bars.length * 10} height="100" fill={ink("bg")} />
      {bars.map((bar, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: bars stand in their order
        <rect key={index} x={index * 10} width="10" y={100 - bar * 96} height={bar * 96} fill={ink("near")} />
      ))}
    </svg>
  );
}

/** A beat to lean in by. */
function Metronome({ perMin }: { perMin: number }) {
  const [on, setOn] = useState(false);
  const [beat, setBeat] = useState(0);
  useEffect(() => {
    if (!on) return;
    const timer = window.setInterval(() => {
      signal({ sound: true, vibration: true, voice: false }, true);
      setBeat((before) => before + 1);
    }, 60_000 / perMin);
    return () => window.clearInterval(timer);
  }, [on, perMin]);
  return (
    <Box display="flex" gap="12px" alignItems="center">
      <Button
        onClick={() => {
          readySound();
          setOn(!on);
        }}
      >
        {on ? "Stop the beat" : `Beat at ${Math.round(perMin)} a minute`}
      </Button>
      <Box width="18px" height="18px" borderRadius="50%" bg={on && beat % 2 ? "accent" : "raised"} aria-hidden="true" />
    </Box>
  );
}
