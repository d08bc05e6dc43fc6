/** Reads tables of the past (people, orders, memberships, enrolments) as facts. */
@NullMarked
package yoru.formats.imports;

import org.jspecify.annotations.NullMarked;
