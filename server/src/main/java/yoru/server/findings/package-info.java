/** What a person should look at in the mapping, and what of it somebody has accepted. */
@NullMarked
package yoru.server.findings;

import org.jspecify.annotations.NullMarked;
