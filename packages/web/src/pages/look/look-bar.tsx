import { Button, Popconfirm, Segmented, Select } from 'antd';
import { netOf, type Board, type NetId, type Side } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import { PictureButton } from '../../widgets/picture-button.tsx';

/** Side, part to find, the way to show, and a photo in place of the drawing. */
export function LookBar({
  board,
  healthy,
  side,
  onSide,
  target,
  onTarget,
  onPart,
  hasPhoto,
  onPhoto,
  onTakeBack,
  onSchematic,
}: {
  board: Board;
  healthy: HealthyBoard;
  side: Side;
  onSide: (side: Side) => void;
  target: NetId | null;
  onTarget: (net: NetId | null) => void;
  onPart: (ref: string) => void;
  hasPhoto: boolean;
  onPhoto: (file: File) => Promise<void>;
  onTakeBack: () => void;
  /** Opens the schematic in a window of its own, which goes along. */
  onSchematic: () => void;
}) {
  return (
    <div className="look-bar">
      <Segmented<Side>
        aria-label="Side"
        value={side}
        onChange={onSide}
        options={[
          { value: 'top', label: 'Top' },
          { value: 'bottom', label: 'Bottom' },
        ]}
      />
      <Select
        aria-label="Find a part"
        placeholder="Find a part"
        showSearch={{ optionFilterProp: 'label' }}
        value={null}
        style={{ width: 150 }}
        popupMatchSelectWidth={300}
        onChange={(ref: string | null) => ref && onPart(ref)}
        options={[
          ...[...board.parts, ...board.chips.filter((one) => !one.virtual)].map((one) => ({
            value: one.ref as string,
            label: one.title ? `${one.ref} ${one.title}` : one.ref,
          })),
          ...board.points.map((one) => ({
            value: one.id,
            label: `${one.id} point on ${one.net}${one.title ? `, ${one.title}` : ''}`,
          })),
        ]}
      />
      <label>
        <span className="quiet">Way to </span>
        <Select<NetId>
          aria-label="Way of the current to"
          showSearch={{ optionFilterProp: 'label' }}
          style={{ width: 220 }}
          value={target}
          onChange={onTarget}
          options={healthy.stages.flatMap(({ stage }) =>
            stage.gives.map((net) => ({
              value: net,
              label: `${net}: ${netOf(board, net).title || stage.title}`,
            })),
          )}
        />
      </label>
      <span style={{ flex: 1 }} />
      <Button size="small" type="text" onClick={onSchematic}>
        Schematic
      </Button>
      {hasPhoto && (
        <Popconfirm
          title="Take this photo back?"
          description="The one before it, with the parts placed on it, is shown again; else the drawing."
          okText="Take it back"
          onConfirm={onTakeBack}
        >
          <Button size="small">Take this photo back</Button>
        </Popconfirm>
      )}
      <PictureButton
        size="small"
        label={hasPhoto ? 'Another photo of this side' : 'Photo of this side'}
        onPicture={onPhoto}
      />
    </div>
  );
}
