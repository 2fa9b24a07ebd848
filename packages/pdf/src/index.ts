export { mostPages, PdfTrouble, readPdf, type PdfContent } from './read-pdf.ts';
