import { Box } from "@chakra-ui/react";
import { OPTIONS } from "../../../api/facts";
import { ShotField } from "../../../shots/ShotField";
import type { ShotWork } from "../../../shots/useShot";
import { Select } from "../../../ui/form/Field";
import { Figure, Figures } from "../../../ui/layout/Figure";
import { Row, Section } from "../../../ui/layout/Section";

/** What is kept of the frame: its aspect, the reach it lends the lens, the pixels and prints that are left. */
export function CropSection({ shot, set, errors }: ShotWork) {
  const { facts, plan } = shot;
  const crop = plan.frame.crop;
  if (!crop) return null;
  return (
    <Section
      title="Crop"
      aside={<Box fontSize="small">{crop.cropped ? `${crop.megapixels.toFixed(0)} MP left` : "the whole frame"}</Box>}
    >
      <Row least="120px">
        <Select
          label="Aspect"
          field="crop_aspect"
          value={facts.crop_aspect}
          empty="as the sensor"
          options={OPTIONS.Aspect}
          choose={(crop_aspect) => set({ crop_aspect })}
          error={errors.crop_aspect}
        />
        <ShotField
          label="Cropped as"
          name="crop_focal_mm"
          optional
          placeholder={`${plan.frame.focal_mm ?? ""}`}
          unit="mm"
          step={5}
        />
        {facts.crop_aspect === "free" && <ShotField label="Width over height" name="crop_ratio" step={0.05} />}
      </Row>
      <Figures>
        <Figure name="pixels" value={`${crop.pixels_wide} × ${crop.pixels_high}`} size="lead" />
        {crop.prints.map((print) => (
          <Figure
            key={print.ppi}
            name={`print at ${print.ppi} ppi`}
            value={`${print.width_cm.toFixed(0)} × ${print.height_cm.toFixed(0)}`}
            unit="cm"
            size="lead"
          />
        ))}
      </Figures>
    </Section>
  );
}
