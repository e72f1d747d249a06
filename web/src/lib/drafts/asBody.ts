/** What was typed into a form as a request's body: texts go as they are, and the server, which reads them, names the field it cannot read. */
export const asBody = <Body>(typed: Record<string, unknown>): Body => typed as unknown as Body;
