/** Open formats read and written: the rulebook document (YAML or JSON) and facts as CloudEvents 1.0 in JSON. */
@org.jspecify.annotations.NullMarked
package yoru.formats;
