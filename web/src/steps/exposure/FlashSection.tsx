import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Figure, Figures } from "../../ui/layout/Figure";
import { Row, Section } from "../../ui/layout/Section";

/** The light that one brings: how far it stands, its power, and how the light of the place stands to it. */
export function FlashSection({ shot }: ShotWork) {
  const { facts, plan } = shot;
  const { flash } = plan.exposure;
  return (
    <Section title={flash?.name ?? "Flash"}>
      <Row>
        <ShotField
          label="Light to subject"
          name="flash_distance_m"
          value={facts.labels.flash_distance_m ?? ""}
          optional
          placeholder="15 cm"
        />
        <ShotField label="Shutter with flash" name="flash_shutter_s" value={facts.labels.flash_shutter_s ?? ""} />
      </Row>
      {flash?.setting && (
        <Figures>
          <Figure name="power" value={flash.setting} size="heading" />
          <Figure name="ready after" value={flash.recycle_s.toFixed(1)} unit="s" size="heading" />
          <Figure
            name="the place's light"
            value={`${flash.ambient_below_stops >= 0 ? "−" : "+"}${Math.abs(flash.ambient_below_stops).toFixed(1)}`}
            unit="EV"
            note={flash.alone ? "the flash alone draws" : "both show"}
            size="heading"
          />
        </Figures>
      )}
    </Section>
  );
}
