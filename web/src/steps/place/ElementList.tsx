import { Box, chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { OPTIONS, SHAPES } from "../../api/facts";
import { useAct } from "../../lib/drafts/useAct";
import { plain } from "../../lib/format/numbers";
import { DeleteButton } from "../../ui/form/DeleteButton";
import { Field, Select } from "../../ui/form/Field";
import { Row } from "../../ui/layout/Section";
import { isLine, shapeWords, useElements } from "./useElements";

type Element = Schemas["ElementOut"];

/** The elements of a viewpoint; one at a time opens for editing. */
export function ElementList({ elements, seen = [] }: { elements: Element[]; seen?: Schemas["SeenOut"][] }) {
  const [open, setOpen] = useState<number>();
  // As the camera sees it, where one is planned; else from the mark.
  const seenOf = (element: Element) => seen.find((item) => item.id === element.id) ?? element;
  if (!elements.length)
    return <Box color="muted">Nothing stands here yet. Add what the picture is made of, nearest first.</Box>;
  return (
    <Box as="ul">
      {elements.map((element) => (
        <Box as="li" key={element.id} borderBottom="1px solid" borderColor="line">
          <chakra.button
            type="button"
            aria-expanded={open === element.id}
            onClick={() => setOpen(open === element.id ? undefined : element.id)}
            display="grid"
            gridTemplateColumns="1fr auto auto 16px"
            gap="12px"
            width="100%"
            textAlign="left"
            bg="transparent"
            border="0"
            py="6px"
            px="0"
            cursor="pointer"
            alignItems="baseline"
          >
            <span>
              {element.name}{" "}
              <Box as="span" color="muted" fontSize="small" ml="4px">
                {shapeWords(element.shape)}
                {element.moves_mps ? `, ${plain(element.moves_mps)} m/s` : ""}
              </Box>
            </span>
            <Box as="span" fontFamily="mono">
              {Math.round(seenOf(element).bearing_deg)}°
            </Box>
            <Box as="span" fontFamily="mono" minW="7ch" textAlign="right">
              {seenOf(element).distance_label}
            </Box>
            <Box as="span" color="muted" aria-hidden="true">
              {open === element.id ? "−" : "+"}
            </Box>
          </chakra.button>
          {open === element.id && <ElementEditor element={element} />}
        </Box>
      ))}
    </Box>
  );
}

function ElementEditor({ element }: { element: Element }) {
  const { edit, remove } = useElements();
  const reshape = useAct((shape: Element["shape"]) => edit(element.id, { shape }));
  const rename = useAct((moving: Element["moving"]) => edit(element.id, { moving }));
  const remake = useAct((material: Element["material"]) => edit(element.id, { material }));
  const key = (field: string) => `element:${element.id}:${field}`;
  const save = (field: string) => (text: string) => edit(element.id, { [field]: text });
  return (
    <Box pb="10px" display="grid" gap="8px">
      <Row>
        <Field words label="Name" name={key("name")} value={element.name} save={save("name")} />
        <Select
          label="Shape"
          value={element.shape}
          options={OPTIONS.Shape}
          choose={(shape) => shape && reshape.mutate(shape)}
        />
      </Row>
      <Row>
        <Field
          label="Bearing"
          name={key("bearing_deg")}
          value={plain(element.bearing_deg, 2)}
          unit="°"
          step={1}
          save={save("bearing_deg")}
        />
        <Field
          label="Distance from the tripod"
          name={key("distance_m")}
          value={plain(element.distance_m)}
          unit="m"
          save={save("distance_m")}
        />
        <Field label="Width" name={key("width_m")} value={plain(element.width_m)} unit="m" save={save("width_m")} />
      </Row>
      <Row>
        <Field
          label={
            element.shape === "water" || (isLine(element.shape) && element.shape !== "wall") ? "Reaches away" : "Height"
          }
          name={key("height_m")}
          value={plain(element.height_m)}
          unit="m"
          save={save("height_m")}
        />
        <Field
          label="Base above ground"
          name={key("base_m")}
          value={plain(element.base_m)}
          unit="m"
          save={save("base_m")}
        />
        <Field
          label="Moves at"
          name={key("speed_mps")}
          value={plain(element.speed_mps)}
          placeholder={element.moves_mps ? `${plain(element.moves_mps)}, usual` : "still"}
          unit="m/s"
          save={(text) => edit(element.id, { speed_mps: text.trim() ? text : null })}
        />
        {element.moves_mps && (SHAPES.wet as readonly string[]).includes(element.shape) && (
          <Field
            label="Flows towards"
            name={key("flow_bearing_deg")}
            value={plain(element.flow_bearing_deg)}
            placeholder="across the view"
            unit="°"
            save={(text) => edit(element.id, { flow_bearing_deg: text.trim() ? text : null })}
          />
        )}
      </Row>
      <Row>
        <Select
          label="What moves"
          value={element.moving}
          options={OPTIONS.MovingKind}
          empty="nothing of a kind"
          choose={(moving) => rename.mutate(moving)}
        />
        {element.passes && (
          <Field
            label="Pass through the frame"
            name={key("passing_per_min")}
            value={plain(element.passing_per_min)}
            placeholder="not said"
            unit="a minute"
            save={(text) => edit(element.id, { passing_per_min: text.trim() ? text : null })}
          />
        )}
      </Row>
      <Row>
        <Select
          label="Made of"
          value={element.material}
          options={OPTIONS.Material}
          empty={`as such a ${shapeWords(element.shape)} usually is`}
          choose={(material) => remake.mutate(material)}
        />
        <Field
          label="Gives back of the light"
          name={key("reflectance")}
          value={plain(element.reflectance)}
          placeholder={plain(element.reflectance_typical)}
          hint="0 to 1; 0.18 is a grey card"
          save={(text) => edit(element.id, { reflectance: text.trim() ? text : null })}
        />
      </Row>
      {isLine(element.shape) && (
        <Field
          label="Then on to"
          name={key("course")}
          value={element.course_text}
          placeholder="103° 6 m, 124° 20 m"
          hint="bearing and distance from the tripod, one bend after another"
          save={(text) => edit(element.id, { course: text })}
        />
      )}
      <DeleteButton name={element.name} remove={() => remove(element.id)} />
    </Box>
  );
}
