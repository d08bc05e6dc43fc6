package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.CellChange;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Source;
import yoru.formats.Fault;
import yoru.formats.UnreadableException;

/**
 * A cell of a draft.
 *
 * @param terms none = no longer opens
 */
public record DraftCell(
        @NotBlank @Size(max = 220) String source,
        @NotBlank @Size(max = 220) String target,
        @Nullable @Valid CellTerms terms) {

    public static DraftCell of(CellChange change) {
        var applies = change.applies().orElse(Applies.ALWAYS);
        var terms = change.terms()
                .map(to -> CellTerms.of(
                        new Link("", change.source(), List.of(), to, applies, change.newTermsName()),
                        change.destination()))
                .orElse(null);
        return new DraftCell(change.source().path(), change.destination().place(), terms);
    }

    CellChange change() {
        return terms == null ? new CellChange(from(), CellTerms.at(target), null) : terms.change(from(), target);
    }

    private Source from() {
        try {
            return Source.read(source);
        } catch (IllegalArgumentException e) {
            throw new UnreadableException(List.of(new Fault("source", "is no source: " + source)));
        }
    }
}
