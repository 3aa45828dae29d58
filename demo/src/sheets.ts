/** The demo's data sheets: documents of one page with a line on it (ISO 32000). Same title, same bytes. */

export function drawSheet(title: string): string {
  const line = `BT /F1 18 Tf 60 760 Td (${title.replace(/[()\\]/g, '\\$&')}) Tj ET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${line.length} >>\nstream\n${line}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let text = '%PDF-1.4\n';
  const starts = objects.map((object, i) => {
    const start = text.length;
    text += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return start;
  });
  const table = starts.map((start) => `${String(start).padStart(10, '0')} 00000 n \n`).join('');
  return `${text}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`;
}
