import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import { BottomAxis, LeftAxis } from "../drawing/axes";
import { Drawing } from "../drawing/Drawing";
import { ink } from "../theme/system";

type Figures = Schemas["LogFiguresOut"];

/** What the forecast promised, and the stars that the light got. */
export function Promised({ figures }: { figures: Figures }) {
  const { light } = figures;
  return (
    <Drawing
      title="Light as it was promised"
      note={
        light.length
          ? "stars of the light over what the forecast promised"
          : "rate the light of field sessions that had a forecast, and they appear here"
      }
      figures={{
        head: ["entry", "promised [0 to 100]", "stars"],
        rows: light.map((item) => [item.name, Math.round(item.promise), item.stars]),
      }}
    >
      {(width, height) => {
        const x = scaleLinear([0, 100], [34, width - 12]);
        const y = scaleLinear([0.5, 5.5], [height - 22, 8]);
        return (
          <>
            <LeftAxis
              ticks={[1, 2, 3, 4, 5].map((stars) => ({ at: y(stars), label: String(stars) }))}
              x={30}
              right={width - 12}
            />
            <BottomAxis
              ticks={[0, 25, 50, 75, 100].map((at) => ({ at: x(at), label: String(at) }))}
              y={height - 20}
              top={8}
            />
            {light.map((item, index) => (
              <g
                key={item.entry_id}
                transform={`translate(${x(item.promise)} ${y(item.stars) + ((index * 7) % 11) - 5})`}
              >
                <title>{item.name}</title>
                <circle
                  r={4.5}
                  fill={item.stars >= 4 ? ink("accent") : ink("bg")}
                  stroke={item.stars >= 4 ? ink("accent") : ink("rust")}
                  strokeWidth={1.5}
                />
              </g>
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

/** How long the walk in and setting up took beside the plan. */
export function Lasted({ figures }: { figures: Figures }) {
  const { lasted } = figures;
  const most = Math.max(30, ...lasted.flatMap((item) => [item.planned_min, item.took_min])) * 1.05;
  return (
    <Drawing
      title="Way and set-up against the plan"
      note={
        lasted.length
          ? "minutes taken over planned: ● setting up, ◇ walking in"
          : "note in the field when you set out, arrive and are set up, and they appear here"
      }
      figures={{
        head: ["entry", "what", "planned [min]", "took [min]"],
        rows: lasted.map((item) => [item.name, item.what, item.planned_min.toFixed(0), item.took_min.toFixed(0)]),
      }}
    >
      {(width, height) => {
        const x = scaleLinear([0, most], [40, width - 12]);
        const y = scaleLinear([0, most], [height - 22, 8]);
        return (
          <>
            <LeftAxis ticks={y.ticks(5).map((min) => ({ at: y(min), label: `${min}` }))} x={36} right={width - 12} />
            <BottomAxis
              ticks={x.ticks(6).map((min) => ({ at: x(min), label: `${min} min` }))}
              y={height - 20}
              top={8}
            />
            <path d={`M${x(0)} ${y(0)}L${x(most)} ${y(most)}`} stroke={ink("muted")} strokeDasharray="4 4" />
            {lasted.map((item) => (
              <g
                key={`${item.entry_id} ${item.what}`}
                transform={`translate(${x(item.planned_min)} ${y(item.took_min)})`}
              >
                <title>{item.name}</title>
                {item.what === "set_up_time" ? (
                  <circle r={4.5} fill={ink("accent")} />
                ) : (
                  <path d="M0 -6L6 0L0 6L-6 0Z" fill={ink("bg")} stroke={ink("haze")} strokeWidth={1.6} />
                )}
              </g>
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

/** What each filter really costs beside what is written on it. */
export function Costs({ figures }: { figures: Figures }) {
  const filters = figures.measured.filter((item) => item.kind === "filter_cost");
  const most = Math.max(0.5, ...filters.map((item) => Math.abs(item.value - item.told)));
  return (
    <Drawing
      title="What filters cost"
      note={
        filters.length
          ? "stops beside what is written on them, with the interval at 95 %"
          : "take a frame with and one without a filter, and its cost appears here"
      }
      figures={{
        head: ["filter", "written [stops]", "measured [stops]", "at 95 %", "pairs"],
        rows: filters.map((item) => [item.name, item.told_figure, item.figure, item.between, item.frames]),
      }}
    >
      {(width, height) => {
        const left = Math.min(190, width * 0.36);
        const x = scaleLinear([-most * 1.25, most * 1.25], [left, width - 70]);
        const row = Math.min(54, (height - 34) / Math.max(1, filters.length));
        return (
          <>
            <BottomAxis
              ticks={x.ticks(5).map((at) => ({ at: x(at), label: at > 0 ? `+${at}` : String(at).replace("-", "−") }))}
              y={height - 20}
              top={6}
            />
            <line x1={x(0)} x2={x(0)} y1={6} y2={height - 22} stroke={ink("rust")} strokeWidth={2} />
            {filters.map((item, index) => {
              const y = 14 + (index + 0.5) * row;
              const low = (item.low ?? item.value) - item.told;
              const high = (item.high ?? item.value) - item.told;
              return (
                <g key={item.name} transform={`translate(0 ${y})`}>
                  <text x={left - 10} textAnchor="end" dy="0.35em" fontSize={13} fill={ink("fg")}>
                    {item.name}
                  </text>
                  <line
                    x1={Math.max(left, x(low))}
                    x2={Math.min(width - 70, x(high))}
                    stroke={ink("haze")}
                    strokeWidth={6}
                    opacity={0.9}
                  />
                  <circle cx={x(item.value - item.told)} r={5} fill={ink("accent")} />
                  <text className="figure" x={width - 62} dy="0.35em" fontSize={13} fill={ink("fg")}>
                    {item.figure}
                  </text>
                </g>
              );
            })}
          </>
        );
      }}
    </Drawing>
  );
}
