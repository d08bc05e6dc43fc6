/**
 * What every capability stands on: the clock, errors as RFC 9457 problems, work after commit, static pages.
 */
@NullMarked
@ApplicationModule(type = ApplicationModule.Type.OPEN)
package yoru.server.platform;

import org.jspecify.annotations.NullMarked;
import org.springframework.modulith.ApplicationModule;
