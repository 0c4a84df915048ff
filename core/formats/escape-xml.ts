/** Text as it stands between the tags of XML, and in attributes with double quotes. Source: W3C XML 1.0, section 2.4. */
export const escapeXml = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')
