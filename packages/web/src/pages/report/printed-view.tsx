import { api } from '@jiko/contract';
import type { Block, Printed } from '@jiko/core/report';

/** A report on the screen, from the same blocks as on paper. */
export function PrintedView({ printed }: { printed: Printed }) {
  return (
    <>
      {printed.blocks.map((block, index) => (
        <BlockView key={index} block={block} />
      ))}
    </>
  );
}

function BlockView({ block }: { block: Block }) {
  switch (block.kind) {
    case 'title':
      return <h1>{block.text}</h1>;
    case 'heading':
      return <h2>{block.text}</h2>;
    case 'text':
      return (
        <p>
          {block.lead && <strong>{block.lead} </strong>}
          {block.text}
        </p>
      );
    case 'small':
      return <p className="quiet">{block.text}</p>;
    case 'list':
      return (
        <ul>
          {block.items.map((one, index) => (
            <li key={index}>{one}</li>
          ))}
        </ul>
      );
    case 'picture':
      return (
        <figure>
          <img
            src={api.attachment(block.attachment)}
            alt={block.caption || 'Picture of the board'}
          />
          <figcaption className="quiet">{block.caption}</figcaption>
        </figure>
      );
    case 'facts':
      return (
        <dl>
          {block.facts.map((fact) => (
            <div key={fact.name} style={{ display: 'contents' }}>
              <dt>{fact.name}</dt>
              <dd>{fact.value}</dd>
            </div>
          ))}
        </dl>
      );
    case 'table':
      return (
        <div className="readings">
          <table>
            <thead>
              <tr>
                {block.head.map((one) => (
                  <th key={one}>{one}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {block.rows.map((row, index) => (
                <tr key={index}>
                  {row.map((cell, column) => (
                    <td key={column}>{cell}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      );
  }
}
