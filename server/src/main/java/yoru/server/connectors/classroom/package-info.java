@NullMarked
package yoru.server.connectors.classroom;

import org.jspecify.annotations.NullMarked;
