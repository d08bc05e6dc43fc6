package yoru.server.ledger;

import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.server.platform.Portions;

/** Who is known. */
@Service
public class Register {

    private final PersonTable people;
    private final Clock clock;

    Register(PersonTable people, Clock clock) {
        this.people = people;
        this.clock = clock;
    }

    /** The people by their keys, as far as they are known. */
    @Transactional(readOnly = true)
    public Map<String, Person> people(Collection<String> keys) {
        return keys.stream()
                .gather(Portions.ofAStatement())
                .flatMap(some -> people.findByKeyIn(some).stream())
                .collect(Collectors.toMap(Person::key, Function.identity()));
    }

    /** How people are called, by key; whoever has no name is not among them. */
    @Transactional(readOnly = true)
    public Map<String, String> names() {
        return people.named().stream().collect(Collectors.toMap(PersonTable.Named::getKey, PersonTable.Named::getName));
    }

    @Transactional(readOnly = true)
    public Optional<Person> person(long id) {
        return people.findById(id);
    }

    @Transactional(readOnly = true)
    public Optional<Person> person(String key) {
        return people.findByKey(key);
    }

    /** Makes somebody known under a name; an empty one changes nothing. */
    @Transactional
    public void know(String key, String name) {
        people.know(key, name, clock.instant());
    }

    /** The person with a key, made known where there was none. */
    @Transactional
    public Person know(String key) {
        people.know(key, "", clock.instant());
        return people.findByKey(key).orElseThrow();
    }

    /** The person, for nobody else to change until the transaction ends. */
    @Transactional
    public Optional<Person> lock(long id) {
        return people.lock(id);
    }

    /** The same of many. */
    @Transactional
    public void lock(Collection<Long> ids) {
        people.lock(ids);
    }

    /** The same of as many as there are, by their keys, as far as they are known. */
    @Transactional
    public void lockKnown(Collection<String> keys) {
        keys.stream()
                .gather(Portions.ofAStatement())
                .flatMap(some -> people.ids(some).stream())
                .sorted()
                .gather(Portions.ofAStatement())
                .forEach(people::lock);
    }

    /** The people by their ids. */
    @Transactional(readOnly = true)
    public Map<Long, Person> byId(Collection<Long> ids) {
        return people.findAllById(ids).stream().collect(Collectors.toMap(Person::id, Function.identity()));
    }

    /** Those of some whom nobody else has locked, for nobody else to change until the transaction ends. */
    @Transactional
    public List<Person> lockFree(Collection<Long> ids) {
        return people.lockFree(ids);
    }

    /** The ids of some people after the given one, in order; none when there are no more. */
    @Transactional(readOnly = true)
    public List<Long> peopleAfter(long id) {
        return people.idsAfter(id);
    }
}
