package yoru.core.letters;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yoru.core.letters.LetterWording.Kind;

/** A school's own words: what they leave open is filled in, and where there is nothing to say no gap stays. */
class LetterWordingTests {

    @ParameterizedTest
    @EnumSource
    void allThatALetterMayLeaveOpenIsFilledInAndNothingElse(Kind kind) {
        var text = kind.placeholders().stream().map("{{%s}}"::formatted).collect(Collectors.joining("\n\n"));
        var wording = new LetterWording("About { {{ x", text);
        assertThat(wording.unknown(kind)).isEmpty();
        assertThat(wording.isComplete(kind)).isTrue();
        var values = kind.placeholders().stream().collect(Collectors.toMap(name -> name, name -> "$1 \\ " + name));
        assertThat(wording.fill(values).text())
                .isEqualTo(kind.placeholders().stream()
                        .map(name -> "$1 \\ " + name)
                        .collect(Collectors.joining("\n\n")));
        assertThat(wording.fill(values).subject()).isEqualTo("About { {{ x");
    }

    @Test
    void whatIsEmptyLeavesNoGapAndASubjectIsOneLine() {
        var filled = new LetterWording("For\n {{person.name}} ", "Hello\n\n{{places}}\n\n{{school}}\n")
                .fill(Map.of("person.name", "Ada", "places", "", "school", "Hollow Oak"));
        assertThat(filled).isEqualTo(new LetterWording("For Ada", "Hello\n\nHollow Oak"));
    }

    @Test
    void whatALetterDoesNotHaveIsNamedAndWhatItMustHaveIsMissed() {
        var wording = new LetterWording("{{titles}} {{price}}", "{{ from }} {{price}}");
        assertThat(wording.unknown(Kind.OPENED)).containsExactly("price", "from");
        assertThat(wording.isComplete(Kind.OPENED)).isFalse();
        assertThat(new LetterWording("{{link}}", "no link in the text").isComplete(Kind.GIFT))
                .isFalse();
    }
}
