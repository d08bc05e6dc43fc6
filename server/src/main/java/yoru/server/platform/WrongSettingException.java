package yoru.server.platform;

/** Something that an installation sets cannot be used; the server does not start with it. */
public final class WrongSettingException extends RuntimeException {

    private static final long serialVersionUID = 1;

    private final String remedy;

    /**
     * @param setting by the name of its variable
     * @param problem what is wrong with it, as the end of a sentence that begins with it
     * @param remedy what to do
     */
    public WrongSettingException(String setting, String problem, String remedy) {
        super(setting + " " + problem);
        this.remedy = remedy;
    }

    public String remedy() {
        return remedy;
    }
}
