export { mostPages, PdfTrouble, readPdf, type PdfContent, type Share } from './read-pdf.ts';
export { printPdf, type PrintedPicture } from './print/print-pdf.ts';
