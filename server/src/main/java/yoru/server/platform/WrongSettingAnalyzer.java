package yoru.server.platform;

import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/** Has the start say which setting is wrong and what to do, not where in the program it was seen. */
class WrongSettingAnalyzer extends AbstractFailureAnalyzer<WrongSettingException> {

    @Override
    protected FailureAnalysis analyze(Throwable failure, WrongSettingException cause) {
        return new FailureAnalysis(cause.getMessage(), cause.remedy(), cause);
    }
}
