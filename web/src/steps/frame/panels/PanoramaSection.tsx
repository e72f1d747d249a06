import { Box } from "@chakra-ui/react";
import { percent } from "../../../lib/format/numbers";
import { ShotField } from "../../../shots/ShotField";
import type { ShotWork } from "../../../shots/useShot";
import { Figure, Figures } from "../../../ui/layout/Figure";
import { Row, Section } from "../../../ui/layout/Section";

type Name = "pano_across_deg" | "pano_upwards_deg" | "pano_overlap" | "pano_pivot_mm";

/** A field wider than one frame: rows and columns, what they make, and what goes wrong with them. */
export function PanoramaSection({ shot }: ShotWork) {
  const { facts, plan } = shot;
  const pano = plan.frame.panorama;
  const field = (label: string, name: Name, _value: number | null, unit: string, step: number, placeholder = "") => (
    <ShotField
      name={name}
      label={label}
      placeholder={placeholder ?? ""}
      unit={unit}
      step={step}
      optional
      clear={{ [name]: name.endsWith("_deg") ? null : 0 }}
    />
  );
  const pixels = (size: number[]) => `${size[0]} × ${size[1]}`;
  return (
    <Section
      title="Panorama"
      aside={
        <Box fontSize="small">
          {pano
            ? `${pano.columns} × ${pano.rows} frames${pano.total_label ? `, ${pano.total_label}` : ""}`
            : "one frame"}
        </Box>
      }
    >
      <Row least="104px">
        {field("Across", "pano_across_deg", facts.pano_across_deg, "°", 5, plan.frame.horizontal_fov_deg?.toFixed(0))}
        {field("Upwards", "pano_upwards_deg", facts.pano_upwards_deg, "°", 5, plan.frame.vertical_fov_deg?.toFixed(0))}
        {field("Overlap", "pano_overlap", facts.pano_overlap, "", 0.05)}
        {field("Pivot off the pupil", "pano_pivot_mm", facts.pano_pivot_mm, "mm", 5)}
      </Row>
      {pano && (
        <>
          <Figures>
            <Figure name="on a cylinder" value={pixels(pano.cylindrical_px)} size="lead" />
            {pano.flat_px && <Figure name="flat" value={pixels(pano.flat_px)} size="lead" />}
            {pano.columns > 1 && (
              <Figure name="resulting overlap" term="overlap" value={percent(pano.overlap_across)} size="lead" />
            )}
            {pano.slip_px !== null && (
              <Figure name={`slip of ${pano.nearest_name}`} value={pano.slip_px.toFixed(1)} unit="px" size="lead" />
            )}
          </Figures>
          <Box
            as="ol"
            display="grid"
            gridTemplateColumns={`repeat(${Math.min(pano.columns, 8)}, minmax(0, 1fr))`}
            gap="3px"
            aria-label="Frames of the panorama"
          >
            {pano.aims.map((aim, at) => (
              <Box
                as="li"
                key={aim.label}
                borderWidth="1px"
                borderStyle="solid"
                borderColor={at === pano.brightest ? "accent" : "edge"}
                px="4px"
                py="2px"
                fontFamily="mono"
                fontSize="note"
                textAlign="center"
                title={at === pano.brightest ? "meter here" : undefined}
              >
                {at + 1}
                <Box color="muted" fontSize="note">
                  {aim.label}
                </Box>
                {at === pano.brightest && (
                  <Box color="accent" fontSize="note" fontFamily="body">
                    meter here
                  </Box>
                )}
              </Box>
            ))}
          </Box>
        </>
      )}
    </Section>
  );
}
