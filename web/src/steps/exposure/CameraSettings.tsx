import { Box } from "@chakra-ui/react";
import type { Shot } from "../../shots/useShot";
import { Section } from "../../ui/layout/Section";

/** What is set on the camera before the first frame, and why. */
export function CameraSettings({ shot }: { shot: Shot }) {
  const { settings } = shot.plan.exposure;
  if (!settings.length) return null;
  return (
    <Section title="Set on the camera" fold="every setting in a list">
      <Box as="dl" display="grid" gridTemplateColumns="auto 1fr" gap="4px 14px" fontSize="body" data-settings="">
        {settings.map((item) => (
          <Box key={item.name} display="contents">
            <Box as="dt" color="muted">
              {item.name}
            </Box>
            <dd>
              {item.value}
              <Box as="span" color="muted" fontSize="small">
                {" "}
                {item.why}
              </Box>
            </dd>
          </Box>
        ))}
      </Box>
    </Section>
  );
}
