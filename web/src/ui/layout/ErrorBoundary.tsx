import { Box } from "@chakra-ui/react";
import { Component, type ReactNode } from "react";
import { Button } from "../form/Button";

/** Where drawing a part of the page fails, the rest of it stands; nothing that was saved is concerned. */
export class ErrorBoundary extends Component<{ what: string; children: ReactNode }, { error: Error | null }> {
  override state = { error: null as Error | null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    if (!this.state.error) return this.props.children;
    return (
      <Box role="alert" p="24px" display="grid" gap="10px" justifyItems="start">
        <Box color="rust">
          {this.props.what} cannot be drawn: {this.state.error.message}
        </Box>
        <Box color="muted">What you have saved is safe. Try again, or go on elsewhere.</Box>
        <Button onClick={() => this.setState({ error: null })}>Try again</Button>
      </Box>
    );
  }
}
