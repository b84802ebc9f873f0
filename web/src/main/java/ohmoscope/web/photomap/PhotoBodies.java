package ohmoscope.web.photomap;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartEdit;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Side;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.formats.photo.Found;
import org.springframework.stereotype.Service;

/** What a board's photograph shows beside the parts that are mapped: edges for a thermal picture to be laid over. */
@Service
public class PhotoBodies {
    private final Mapping mapping;

    PhotoBodies(Mapping mapping) {
        this.mapping = mapping;
    }

    /**
     * The board with every body that its photograph shows and nobody has mapped; the board itself where no photograph lies
     * under that side. About a second the first time, then remembered.
     */
    public Board with(Board board, long id, Side side) throws IOException {
        Map<Side, PhotoMap.Laid> laid = mapping.laid(id);
        if (!laid.containsKey(side)) {
            return board;
        }
        List<Part> parts = new ArrayList<>(board.parts());
        for (Found found : mapping.found(id, side, laid.get(side))) {
            if (board.parts().stream().noneMatch(p -> p.side() == side && p.covers(found.xMm(), found.yMm(), 0))) {
                parts.add(PartEdit.of(Part.of(
                                "seen-" + parts.size(),
                                PartKind.OTHER,
                                side,
                                found.xMm(),
                                found.yMm(),
                                found.wMm(),
                                found.hMm(),
                                List.of()))
                        .at(side, found.xMm(), found.yMm(), found.rotDeg())
                        .done());
            }
        }
        return board.withParts(parts);
    }
}
