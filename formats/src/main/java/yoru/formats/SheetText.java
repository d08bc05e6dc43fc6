package yoru.formats;

/**
 * Texts in files that people open in a spreadsheet, which takes what begins with certain characters for a formula and
 * carries it out. Such a text gets an apostrophe before it, as OWASP advises ("CSV Injection"); files for programs
 * keep every text as it is.
 */
final class SheetText {

    private static final String BEGINS_FORMULA = "=+-@\t\r\n\uFF1D\uFF0B\uFF0D\uFF20";

    private SheetText() {}

    /** As a cell of RFC 4180. */
    static String cell(String text) {
        return AccessCsv.quoted(!text.isEmpty() && BEGINS_FORMULA.indexOf(text.charAt(0)) >= 0 ? "'" + text : text);
    }
}
