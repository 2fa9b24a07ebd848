export { mostPages, PdfTrouble, readPdf, type PdfContent, type Share } from './read-pdf.ts';
