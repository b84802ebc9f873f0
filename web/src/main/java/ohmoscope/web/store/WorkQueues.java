package ohmoscope.web.store;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * Makes the queues. They are in the database, so several processes may serve them; a worker that gives no sign of life for
 * {@value #MISSED} heartbeats loses its work to another.
 */
@Component
public class WorkQueues {
    private static final Duration LOOK_EVERY = Duration.ofSeconds(1);
    private static final Duration HEARTBEAT = Duration.ofSeconds(3);
    private static final int MISSED = 4;
    private static final Duration TRY_AGAIN_AFTER = Duration.ofSeconds(5);
    private static final Duration WAIT_AT_STOP = Duration.ofMillis(200);

    private final DataSource dataSource;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final String owner = UUID.randomUUID().toString();
    private final List<Scheduler> schedulers = new CopyOnWriteArrayList<>();

    WorkQueues(DataSource dataSource, ApplicationEventPublisher events, Clock clock) {
        this.dataSource = dataSource;
        this.events = events;
        this.clock = clock;
    }

    /** Something was added. */
    record Added(Scheduler scheduler) {}

    /** @param name of the kind of work; its table is called that with {@code _queue} behind */
    public WorkQueue open(String name, WorkQueue.Work work) {
        OneTimeTask<Void> task = Tasks.oneTime(name)
                .onFailure(new FailureHandler.OnFailureRetryLater<>(TRY_AGAIN_AFTER))
                .execute((instance, context) -> work.run(instance.getId()));
        String table = name + "_queue";
        Scheduler scheduler = Scheduler.create(dataSource, task)
                .tableName(table)
                .schedulerName(() -> owner)
                .threads(1)
                .pollingInterval(LOOK_EVERY)
                .heartbeatInterval(HEARTBEAT)
                .missedHeartbeatsLimit(MISSED)
                .shutdownMaxWait(WAIT_AT_STOP)
                .build();
        SchedulerClient client = SchedulerClient.Builder.create(new TransactionAwareDataSourceProxy(dataSource), task)
                .tableName(table)
                .build();
        schedulers.add(scheduler);
        return id -> {
            client.scheduleIfNotExists(task.instance(id), clock.instant());
            events.publishEvent(new Added(scheduler));
        };
    }

    /** Not before it is stored: the worker would not see it. */
    @TransactionalEventListener(fallbackExecution = true)
    void wake(Added added) {
        added.scheduler().triggerCheckForDueExecutions();
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        schedulers.forEach(Scheduler::start);
    }

    @EventListener(ContextClosedEvent.class)
    void stop() {
        schedulers.forEach(Scheduler::stop);
    }
}
