import { Box } from "@chakra-ui/react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Thumb } from "./Thumb";

// So long a finger must stay: a drop of rain or a sleeve does not [ms].
const HOLD_MS = 500;

/** A button that acts only when it is held; a bar shows how far. From the keyboard a press is enough. */
export function Hold({
  act,
  main = false,
  minH,
  children,
}: {
  act: () => void;
  main?: boolean;
  minH: string;
  children: ReactNode;
}) {
  const timer = useRef<number | undefined>(undefined);
  const [held, setHeld] = useState(false);
  const let_go = () => {
    window.clearTimeout(timer.current);
    setHeld(false);
  };
  useEffect(() => () => window.clearTimeout(timer.current), []);
  return (
    <Thumb
      look={main ? "main" : "plain"}
      minH={minH}
      fontSize={main ? "title" : "heading"}
      overflow="hidden"
      touchAction="none"
      userSelect="none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
        window.clearTimeout(timer.current);
        timer.current = window.setTimeout(() => {
          setHeld(false);
          act();
        }, HOLD_MS);
      }}
      onPointerUp={let_go}
      onPointerCancel={let_go}
      onContextMenu={(event) => event.preventDefault()}
      // detail is 0 where a key or a screen reader pressed it.
      onClick={(event) => event.detail === 0 && act()}
    >
      <Box
        position="absolute"
        left="0"
        bottom="0"
        height="8px"
        bg={main ? "onAccent" : "accent"}
        width={held ? "100%" : "0"}
        transition={held ? `width ${HOLD_MS}ms linear` : "none"}
      />
      {children}
    </Thumb>
  );
}
